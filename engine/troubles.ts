/** What keeps a lane from its work: into the log once, and onto Today as soon as the database can be written again. */
import { databaseTrouble } from '#data/connection'
import { insertTrouble } from '#data/troubles'
import type { EngineHouse } from '#usecases/house'
import { write } from '#data/connection'
import type { Log } from './log'

interface Trouble { kind: string, said: string, at: number }

/** Shorter than that it is no trouble: another program was writing. */
const WORTH_TELLING_MS = 5000

export class Troubles {
  readonly #house: EngineHouse
  readonly #log: Log
  readonly #open = new Map<string, Trouble>()

  constructor(house: EngineHouse, log: Log) {
    this.#house = house
    this.#log = log
  }

  met(lane: string, error: unknown): void {
    const trouble = databaseTrouble(error)
    const kind = trouble?.kind ?? 'failed'
    const open = this.#open.get(lane)
    if (open?.kind === kind) return
    const said = trouble?.sentence ?? `Something unforeseen went wrong: ${error instanceof Error ? error.message : String(error)}`
    this.#open.set(lane, { kind, said, at: open?.at ?? this.#house.system.now() })
    this.#log.error({ lane, err: error }, said)
  }

  /** Written down once, for the first lane that is well again. */
  over(lane: string): void {
    const trouble = this.#open.get(lane)
    if (!trouble) return
    this.#open.delete(lane)
    const now = this.#house.system.now()
    this.#log.info({ lane, ms: now - trouble.at }, 'goes on')
    if (now - trouble.at < WORTH_TELLING_MS) return
    write(this.#house.db, () => insertTrouble(this.#house.db, { process: 'engine', kind: trouble.kind, said: trouble.said, at: trouble.at, overAt: now }))
  }
}
