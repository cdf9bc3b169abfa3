/** The web server makes and migrates the database: an engine waits for it, however long that takes, as long as that process is alive. */
import { isBusy } from '#data/connection'
import { NotMigratedYet, SchemaProblem } from '#data/migrate'
import type { Clock } from '#core/ports'

/** So long a web server that is not there yet is waited for; one that is there is waited for as long as it lives. */
const PATIENCE_MS = 60_000
const LOOK_MS = 200

export interface Waiting<Opened> {
  /** Null where there is nothing to open yet; throws what the database says. */
  open(): Opened | null
  webIsAlive(): boolean
  isStopped(): boolean
  clock: Clock
  pause(ms: number): Promise<void>
}

/** Null if it was stopped meanwhile. Throws {@link SchemaProblem} where waiting will not help. */
export async function openWhenReady<Opened>({ open, webIsAlive, isStopped, clock, pause }: Waiting<Opened>): Promise<Opened | null> {
  for (let seenAt = clock.now(); !isStopped();) {
    try {
      const opened = open()
      if (opened !== null) return opened
    }
    catch (error) {
      if (!(error instanceof NotMigratedYet) && !isBusy(error)) throw error
    }
    if (webIsAlive()) seenAt = clock.now()
    else if (clock.now() - seenAt > PATIENCE_MS) throw new SchemaProblem(
      'The web server, which makes the database, has not been there for a minute.',
    )
    await pause(LOOK_MS)
  }
  return null
}
