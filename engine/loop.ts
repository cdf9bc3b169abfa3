/** The engine's round: for each open workspace, play what is due, then sleep until woken or for a second. */
import { refreshStatistics } from '#data/connection'
import { beat, practiceClock } from '#data/workspace'
import type { EngineHouse } from '#usecases/house'
import { play } from '#usecases/time/play'

/** The longest a missed wake can cost. */
export const ROUND_MS = 1000

const BEAT_MS = 1000

const STATISTICS_MS = 3_600_000

export interface Round {
  /** The workspaces that are open now; asked anew each round, because live may be made while the engine runs. */
  houses(): EngineHouse[]
  version: string
  log: { info(what: object, text: string): void, error(what: object, text: string): void }
}

export class Engine {
  #stopping = false
  #woken = false
  #rouse: (() => void) | null = null
  readonly #startedAt: number
  readonly #beatAt = new Map<EngineHouse, number>()
  readonly #countedAt = new Map<EngineHouse, number>()

  constructor(readonly round: Round, now: number) {
    this.#startedAt = now
  }

  wake(): void {
    this.#woken = true
    this.#rouse?.()
  }

  stop(): void {
    this.#stopping = true
    this.#rouse?.()
  }

  /** Runs until stopped; what is under way is finished first. */
  async run(): Promise<void> {
    while (!this.#stopping) {
      this.#woken = false
      for (const house of this.round.houses()) await this.#playOnce(house)
      if (!this.#woken && !this.#stopping) await this.#sleep()
    }
  }

  async #playOnce(house: EngineHouse): Promise<void> {
    try {
      this.#beat(house)
      this.#count(house)
      const until = house.mode === 'practice' ? practiceClock(house.db)!.targetAt : house.clock.now()
      await play(house, until, {
        goOn: () => {
          this.#beat(house)
          return !this.#stopping
        },
      })
    }
    catch (error) {
      // One workspace's trouble must not stop the other; the next round tries again.
      this.round.log.error({ mode: house.mode, err: error }, 'a round failed')
    }
  }

  #beat(house: EngineHouse): void {
    const now = house.system.now()
    if (now - (this.#beatAt.get(house) ?? 0) < BEAT_MS) return
    this.#beatAt.set(house, now)
    beat(house.db, { process: 'engine', seenAt: now, startedAt: this.#startedAt, version: this.round.version })
  }

  #count(house: EngineHouse): void {
    const now = house.system.now()
    if (now - (this.#countedAt.get(house) ?? 0) < STATISTICS_MS) return
    this.#countedAt.set(house, now)
    refreshStatistics(house.db)
  }

  async #sleep(): Promise<void> {
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ROUND_MS)
      this.#rouse = () => {
        clearTimeout(timer)
        resolve()
      }
    })
    this.#rouse = null
  }
}
