/** A process that presses an offer's button and pays, for one buyer after the other, as fast as it can. Says who got it. */
import { openMigrated, databaseFile, contextOn } from '#runtime/open'
import { keysIn } from '#runtime/keys'
import { readSettings } from '#runtime/settings'
import { startCheckout } from '#usecases/offers/checkout'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { InputProblem, NotNow } from '#usecases/problem'

async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const db = openMigrated(databaseFile(settings, 'practice'))
  const context: ReturnType<typeof contextOn> = contextOn(db, settings, keysIn(settings.data), () => {}, async (headers, body) =>
    mustBeTaken(receiveWebhook(context, headers, body)))
  const outcomes: string[] = []
  process.stdout.write('ready\n')
  // All begin at once.
  await new Promise(resolve => process.stdin.once('data', resolve))
  for (const email of process.env.BUYERS!.split(',')) {
    try {
      const {
        url,
      } = await startCheckout(context, { slug: 'long-stitch', email, firstName: '', code: process.env.CODE ?? '', zone: '', ip: null })
      await context.standin!.pay(context.signer.read('pay', url.slice(url.lastIndexOf('/') + 1))!, 'works')
      outcomes.push('bought')
    }
    catch (error) {
      outcomes.push(error instanceof NotNow ? 'no place' : error instanceof InputProblem ? error.problems[0]!.field : String(error))
    }
  }
  process.stdout.write(`${JSON.stringify(outcomes)}\n`)
  db.close()
  process.exit(0)
}

void main()
