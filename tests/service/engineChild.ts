/**
 * An engine in a process of its own that kills itself at a named point, as if
 * the power had gone. Everything else in it is the engine as it ships.
 */
import { join } from 'node:path'
import type { Mode } from '#core/views/frame'
import { nextSendAt } from '#data/due'
import { practiceClock } from '#data/workspace'
import { keysIn } from '#runtime/keys'
import { databaseFile, engineContextOn, openMigrated, systemClock } from '#runtime/open'
import { readSettings } from '#runtime/settings'
import type { EngineContext } from '#usecases/context'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { weeklySummaryView } from '#usecases/views/weeklySummary'
import { recover } from '#usecases/sending/leases'
import { play } from '#usecases/time/play'

const { KILL_AT, KILL_NTH, MODE } = process.env
let left = Number(KILL_NTH)

async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const db = openMigrated(databaseFile(settings, MODE as Mode))
  const context: EngineContext = {
    ...engineContextOn(
      db, settings, keysIn(settings.data), `child-${process.pid}-${systemClock.now()}`,
      async (headers, body) => mustBeTaken(receiveWebhook(context, headers, body)), join(import.meta.dirname, 'smtp.mjs'),
    ),
    summaryOf: until => weeklySummaryView(context, until),
    stage(stage) {
      if (stage === KILL_AT && --left === 0) process.kill(process.pid, 'SIGKILL')
    },
  }
  if (KILL_AT === 'row' && left > 0) {
    // In the middle of the transaction that works off a row of an import.
    db.function('dies', { directOnly: false }, () => --left === 0 ? process.kill(process.pid, 'SIGKILL') : 0)
    db.exec('CREATE TEMP TRIGGER dying AFTER UPDATE OF outcome ON import_rows BEGIN SELECT dies(); END')
  }
  // In the middle of the transaction that puts down the people of an audience, or that queues their emails.
  const written = { 'gathering': 'task_people', 'queueing': 'outbox' }[KILL_AT ?? '']
  if (written && left > 0) {
    db.function('dies', { directOnly: false }, () => --left === 0 ? process.kill(process.pid, 'SIGKILL') : 0)
    db.exec(`CREATE TEMP TRIGGER dying AFTER INSERT ON ${written} BEGIN SELECT dies(); END`)
  }
  // Waits are not slept through: where nothing may go now, it is later at once.
  let ahead = 0
  process.stdout.write('begins\n')
  if (context.mode === 'live') context.clock = { now: () => systemClock.now() + ahead }
  recover(context)
  if (context.mode === 'practice') {
    await play(context, practiceClock(db)!.targetAt)
  }
  else {
    // What was begun is gone on with, whether or not anything is to be sent already.
    await play(context, context.clock.now())
    for (let next = nextSendAt(db); next !== null; next = nextSendAt(db)) {
      ahead += Math.max(0, next - context.clock.now())
      await play(context, context.clock.now())
    }
  }
  await context.carrier.close()
}

void main()
