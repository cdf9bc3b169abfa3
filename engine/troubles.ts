/** What keeps a lane from its work: into the log once, and onto Today as soon as the database can be written again. */
import { databaseTrouble } from '#data/connection'
import { insertTrouble } from '#data/troubles'
import type { EngineContext } from '#usecases/context'
import { immediate } from '#data/connection'
import type { Log } from './log'

interface Trouble { kind: string, said: string, at: number }

/** Shorter than that it is no trouble: another program was writing. */
const WORTH_TELLING_MS = 5000

export class Troubles {
  readonly #context: EngineContext
  readonly #log: Log
  readonly #open = new Map<string, Trouble>()

  constructor(context: EngineContext, log: Log) {
    this.#context = context
    this.#log = log
  }

  met(lane: string, error: unknown): void {
    const trouble = databaseTrouble(error)
    const kind = trouble?.kind ?? 'failed'
    const open = this.#open.get(lane)
    if (open?.kind === kind) return
    const said = trouble?.sentence ?? `Something unexpected went wrong: ${error instanceof Error ? error.message : String(error)}`
    this.#open.set(lane, { kind, said, at: open?.at ?? this.#context.system.now() })
    this.#log.error({ lane, err: error }, said)
  }

  /** Written down once, for the first lane that is well again. */
  over(lane: string): void {
    const trouble = this.#open.get(lane)
    if (!trouble) return
    this.#open.delete(lane)
    const now = this.#context.system.now()
    this.#log.info({ lane, ms: now - trouble.at }, 'goes on')
    if (now - trouble.at < WORTH_TELLING_MS) return
    immediate(this.#context.db, () =>
      insertTrouble(this.#context.db, { process: 'engine', kind: trouble.kind, said: trouble.said, at: trouble.at, overAt: now }))
  }
}
