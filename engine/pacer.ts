/** So many emails a minute and no more, evenly. */
import { sendingPace } from '#data/carrier'
import type { EngineHouse } from '#usecases/house'

const MINUTE_MS = 60_000

export class Pacer {
  readonly #house: EngineHouse
  #nextAt = 0

  constructor(house: EngineHouse) {
    this.#house = house
  }

  /** Resolves when it is one's turn; at once where no number is set. */
  async turn(): Promise<void> {
    const { aMinute } = sendingPace(this.#house.db)
    if (aMinute === null) return
    const now = this.#house.system.now()
    const at = Math.max(now, this.#nextAt)
    this.#nextAt = at + MINUTE_MS / aMinute
    if (at > now) await new Promise(resolve => setTimeout(resolve, at - now))
  }
}
