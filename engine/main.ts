/** Entry of an engine process: one for each workspace, so that none is behind another. */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { hostname, setPriority } from 'node:os'
import pino from 'pino'
import { SchemaProblem } from '#data/migrate'
import type { Mode } from '#core/views/frame'
import { findWorkspace } from '#data/workspace'
import { keysIn } from '#runtime/keys'
import { webIsAlive } from '#runtime/alive'
import { databaseFile, engineContextOn, openMigrated, systemClock } from '#runtime/open'
import { readSettings, SettingProblem, type Settings } from '#runtime/settings'
import { VERSION } from '#runtime/version'
import { engineAnswers, socketPath } from '#runtime/wake'
import type { EngineContext } from '#usecases/context'
import { completePages } from '#usecases/arrive/pages'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { weeklySummaryView } from '#usecases/views/weeklySummary'
import { recover } from '#usecases/sending/leases'
import { Engine } from './loop'
import { openWhenReady } from './waiting'
import { AnotherEngine, listenForWakes } from './waker'

/** Tells the supervisor that starting again will not help (EX_CONFIG of sysexits.h). */
const WILL_NOT_HELP = 78
/** Where both want the processor, whoever looks at a page comes first (0 is everybody's, 19 the last). */
const BEHIND_THE_PAGES = 5

const mode: Mode = process.argv[2] === 'live' ? 'live' : 'practice'
const log = pino({ name: mode === 'live' ? 'live engine' : 'engine', level: process.env.PORCH_LOG || 'info' })

async function main(): Promise<void> {
  setPriority(BEHIND_THE_PAGES)
  const settings = readSettings(process.env)
  let engine: Engine | null = null
  const line = await listenForWakes(socketPath(settings.data, mode), engineAnswers, () => engine?.wake())
  let stopped = false
  const stop = () => {
    stopped = true
    engine?.stop()
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
  // What nobody waited for has gone wrong somewhere: no state of ours can be trusted any more, but the database's can.
  process.on('unhandledRejection', (error) => {
    log.error({ err: error }, 'something went wrong that nobody waited for; the engine ends and is started again')
    process.exitCode = 1
    stop()
  })

  const owner = `${hostname()}:${process.pid}:${systemClock.now()}`
  const context = await openWhenReady({
    open: () => contextIn(settings, owner), webIsAlive: () => webIsAlive(settings.data), isStopped: () => stopped,
    clock: systemClock, pause: ms => new Promise(resolve => setTimeout(resolve, ms)),
  })
  if (context) {
    log.info({ ...recover(context), pages: await completedPages(context) }, 'workspace open')
    engine = new Engine(context, log, VERSION)
    log.info({ version: VERSION }, 'engine runs')
    await engine.run()
    await context.carrier.close()
    context.db.close()
  }
  line.close()
  log.info('engine stopped')
}

/** Nothing else waits for it: where it fails, it is tried at the next start, and until then such a page does less. */
const completedPages = (context: EngineContext) => completePages(context).catch((error: unknown) => {
  context.trouble('the emails of pages that were published before', error)
  return 0
})

/** Null while there is no workspace in it yet. */
function contextIn(settings: Settings, owner: string): EngineContext | null {
  const file = databaseFile(settings, mode)
  if (!existsSync(file)) return null
  const db = openMigrated(file)
  if (!findWorkspace(db)) {
    db.close()
    return null
  }
  const context: EngineContext = {
    ...engineContextOn(
      db, settings, keysIn(settings.data), owner, async (headers, body) => mustBeTaken(receiveWebhook(context, headers, body)),
      join(import.meta.dirname, 'smtp.mjs'),
    ),
    summaryOf: until => weeklySummaryView(context, until),
    stage: (stage, outboxId) => log.debug({ stage, outboxId }, 'email'),
    trouble: (what, error) => log.error({ err: error }, what),
  }
  return context
}

main().catch((error: Error) => {
  const plain = error instanceof SettingProblem || error instanceof SchemaProblem || error instanceof AnotherEngine
  if (plain) process.stderr.write(`${error.message}\n`)
  else log.fatal({ err: error }, 'engine failed')
  process.exit(plain ? WILL_NOT_HELP : 1)
})
