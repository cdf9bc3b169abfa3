/** Entry of the engine process. */
import { existsSync } from 'node:fs'
import { hostname } from 'node:os'
import pino from 'pino'
import { SchemaProblem } from '#data/migrate'
import type { Mode } from '#core/views/frame'
import { findWorkspace } from '#data/workspace'
import { keysIn } from '#runtime/keys'
import { databaseFile, engineHouseOn, openMigrated, systemClock } from '#runtime/open'
import { readSettings, SettingProblem } from '#runtime/settings'
import { VERSION } from '#runtime/version'
import { engineAnswers, socketPath } from '#runtime/wake'
import type { EngineHouse } from '#usecases/house'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { recover } from '#usecases/sending/handOver'
import { Engine } from './loop'
import { AnotherEngine, listenForWakes } from './waker'

/** Tells the supervisor that starting again will not help (EX_CONFIG of sysexits.h). */
const WILL_NOT_HELP = 78
const PATIENCE_MS = 60_000

const log = pino({ name: 'engine', level: process.env.PORCH_LOG || 'info' })

async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const keys = keysIn(settings.data)
  const owner = `${hostname()}:${process.pid}:${systemClock.now()}`
  const open = new Map<Mode, EngineHouse>()

  /** Opens a workspace once its file is there and migrated, and takes back what a dead engine held. */
  const openWhenReady = (mode: Mode) => {
    if (open.has(mode) || !existsSync(databaseFile(settings, mode))) return
    const db = openMigrated(databaseFile(settings, mode))
    if (!findWorkspace(db)) {
      db.close()
      return
    }
    const house: EngineHouse = {
      ...engineHouseOn(db, settings, keys, owner, async (headers, body) => mustBeTaken(receiveWebhook(house, headers, body))),
      stage: (stage, outboxId) => log.debug({ mode, stage, outboxId }, 'email'),
    }
    const recovered = recover(house)
    open.set(mode, house)
    log.info({ mode, ...recovered }, 'workspace open')
  }

  let engine: Engine | null = null
  const line = await listenForWakes(socketPath(settings.data), engineAnswers, () => engine?.wake())

  // The web server migrates; wait for it.
  const deadline = systemClock.now() + PATIENCE_MS
  while (!open.has('practice')) {
    try {
      openWhenReady('practice')
    }
    catch (error) {
      if (!(error instanceof SchemaProblem) || systemClock.now() > deadline) throw error
    }
    if (!open.has('practice')) {
      if (systemClock.now() > deadline) throw new SchemaProblem('The web server did not make the database within a minute.')
      await new Promise(resolve => setTimeout(resolve, 200))
    }
  }

  engine = new Engine({
    houses() {
      try {
        openWhenReady('live')
      }
      catch (error) {
        log.error({ err: error }, 'the live workspace could not be opened')
      }
      return [...open.values()]
    },
    version: VERSION,
    log,
  }, systemClock.now())

  const stop = () => engine!.stop()
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
  log.info({ version: VERSION }, 'engine runs')
  await engine.run()
  line.close()
  for (const house of open.values()) {
    await house.carrier.close()
    house.db.close()
  }
  log.info('engine stopped')
}

main().catch((error: Error) => {
  const plain = error instanceof SettingProblem || error instanceof SchemaProblem || error instanceof AnotherEngine
  if (plain) process.stderr.write(`${error.message}\n`)
  else log.fatal({ err: error }, 'engine failed')
  process.exit(plain ? WILL_NOT_HELP : 1)
})
