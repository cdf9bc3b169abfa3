/** Makes the practice workspace: sixty days of Saltmarsh Bindery, played by the real engine loop. */
import { existsSync, renameSync, rmSync } from 'node:fs'
import { sayDay } from '#core/time/say'
import { DAY, MINUTE } from '#core/time/zone'
import { keysIn } from '#runtime/keys'
import { closeWhole, databaseFile, engineContextOn, openWithoutSync, systemClock } from '#runtime/open'
import { isPlainProblem } from '#runtime/problems'
import { readSettings, SettingProblem } from '#runtime/settings'
import { engineAnswers, socketPath } from '#runtime/wake'
import { optIn } from '#usecases/arrive/optIn'
import { countVisits } from '#usecases/arrive/visits'
import type { EngineContext } from '#usecases/context'
import { startCheckout } from '#usecases/offers/checkout'
import { waitForOffer } from '#usecases/offers/wait'
import { giveBack } from '#usecases/offers/end'
import { InputProblem, NotNow } from '#usecases/problem'
import { publishedOfferAt } from '#usecases/views/publicOffers'
import { purchaseOfOrder } from '#usecases/views/purchases'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { weeklySummaryView } from '#usecases/views/weeklySummary'
import { deskView, finishTodo, seeNotices } from '#usecases/know/todos'
import { inventReader } from '#usecases/practice/inventReader'
import { foundWorkspace } from '#usecases/settings/workspace'
import { moveClock } from '#usecases/time/moveClock'
import { play } from '#usecases/time/play'
import { publishedPage } from '#usecases/views/publicPages'
import { BINDERY, furnish, spendings } from './bindery'
import { broadcastsAhead, broadcastsBetween } from './broadcasts'
import { fairGuests, oldNotebook } from './fair'
import { buyersAmong, waitersAmong, type Buyer, type Waiter } from './buyers'
import { visitorsBetween, type Visitor } from './visitors'

const DAYS = 60
const PEOPLE = 400

type DemoContext = EngineContext & Pick<ReturnType<typeof engineContextOn>, 'standin'>

async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const file = databaseFile(settings, 'practice')
  const fresh = process.argv.includes('--fresh')
  if (existsSync(file) && !fresh) return
  if (await engineAnswers(socketPath(settings.data, 'practice'))) {
    throw new SettingProblem('The application runs on this data folder; stop it before the practice workspace is made anew.')
  }

  process.stdout.write('Making the practice workspace: sixty days of Saltmarsh Bindery are played through.\n')
  const building = `${file}.new`
  removeDatabase(building)
  const db = openWithoutSync(building)
  const end = Math.floor(systemClock.now() / MINUTE) * MINUTE
  const begin = end - DAYS * DAY
  foundWorkspace(db, { mode: 'practice', key: 'saltmarsh', ...BINDERY, at: begin })
  const context: DemoContext = { ...engineContextOn(db, settings, keysIn(settings.data), 'demo', async (headers, body) =>
    mustBeTaken(receiveWebhook(context, headers, body))), summaryOf: until => weeklySummaryView(context, until), stage() {} }
  const moveTo = async (at: number) => {
    moveClock(context, { by: 'to', at })
    await play(context, at)
  }
  const marks = await furnish(context, begin, end)
  await oldNotebook(context)
  let fair = false
  const visitors = visitorsBetween(begin, end, PEOPLE)
  const happenings = [
    ...visitors.map(visitor => ({ at: visitor.at, happen: () => comeIn(context, visitor) })),
    ...broadcastsBetween(context, marks, begin),
    ...waitersAmong(visitors, end).map(waiter => ({ at: waiter.at, happen: () => wait(context, waiter) })),
    ...buyersAmong(visitors, end).flatMap((buyer) => {
      let order: string | null = null
      const { back } = buyer
      return [
        { at: buyer.at, happen: async () => { order = await buy(context, buyer) } },
        ...back ? [{ at: back.at, happen: async () => { if (order !== null) await moneyBack(context, order, back.share) } }] : [],
      ]
    }),
  ].sort((a, b) => a.at - b.at)
  let told = 0
  for (const { at, happen } of happenings) {
    await moveTo(at)
    if (!fair && at > begin + 20 * DAY) {
      fair = true
      await fairGuests(context, marks)
    }
    await happen()
    clearDesk(context, end)
    const day = Math.floor((at - begin) / DAY)
    if (day >= told + 10) {
      told = day - day % 10
      process.stdout.write(`  ${sayDay(at, BINDERY.zone, true)}\n`)
    }
  }
  await moveTo(end)
  await broadcastsAhead(context, marks)
  spendings(context, begin)
  closeWhole(db)
  removeDatabase(file)
  renameSync(building, file)
  process.stdout.write('Made.\n')
}

/** Ines does in the evening what is to be done, and reads what she was told; what came in the last days still lies there. */
function clearDesk(context: DemoContext, end: number): void {
  const now = context.clock.now()
  if (now > end - 3 * DAY) return
  const { open, notices } = deskView(context)
  for (const { id } of open.slice(0, -1)) finishTodo(context, id)
  const read = notices.filter(({ seen, at }) => !seen && at < now - DAY)
  if (read.length > 0) seeNotices(context, Math.max(...read.map(({ id }) => id)))
}

function comeIn(context: DemoContext, { slug, address, firstName, answers, zone, touch, keenness, at, lookers }: Visitor): void {
  countVisits(context, [{ shown: { kind: 'page', id: publishedPage(context, slug).id }, touch, at, visits: 1 + lookers }])
  const { personId } = optIn(context, { slug, email: address, firstName, answers, zone, ip: null, touch })
  inventReader(context, personId, keenness)
}

/** Their invented reader says yes to it in their own time. */
function wait(context: DemoContext, { slug, address, firstName, zone }: Waiter): void {
  waitForOffer(context, { slug, email: address, firstName, code: '', zone, ip: null })
}

/** The order that came of it, if it was paid. */
async function buy(
  context: DemoContext, { slug, address, firstName, code, touch, card, refusedFirst, at, lookers }: Buyer,
): Promise<string | null> {
  const offer = publishedOfferAt(context, slug)
  countVisits(context, [{ shown: { kind: 'offer', id: offer.id }, touch, at, visits: 1 + lookers }])
  const pressed = { slug, email: address, firstName, zone: '', ip: null, touch }
  const opened = await startCheckout(context, { ...pressed, code }).catch(async (error: unknown): Promise<{ url: string } | null> => {
    // A coupon that has ended meanwhile is left out.
    if (error instanceof InputProblem) return startCheckout(context, { ...pressed, code: '' })
    // How many come before the last place is taken hangs on the hour at which the workspace is made.
    if (!(error instanceof NotNow)) throw error
    waitForOffer(context, { ...pressed, code: '' })
    return null
  })
  if (!opened) return null
  const { url } = opened
  const order = context.signer.read('pay', url.slice(url.lastIndexOf('/') + 1))!
  if (refusedFirst) await context.standin!.pay(order, 'refused')
  if (card === null) return null
  await context.standin!.pay(order, card)
  return order
}

async function moneyBack(context: DemoContext, order: string, share: number): Promise<void> {
  const purchase = purchaseOfOrder(context, order)
  const [payment] = purchase.payments
  if (payment) {
    await giveBack(context, { purchaseId: purchase.id, paymentId: payment.id, amount: Math.round(payment.amount * share / 10_000) })
  }
}

function removeDatabase(path: string): void {
  for (const end of ['', '-wal', '-shm']) rmSync(path + end, { force: true })
}

main().catch((error: unknown) => {
  process.stderr.write(`${isPlainProblem(error) ? error.message : error instanceof Error ? error.stack : String(error)}\n`)
  process.exitCode = 1
})
