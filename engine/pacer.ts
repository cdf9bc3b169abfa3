/** So many emails a minute and no more, evenly. */
import { sendingPace } from '#data/carrier'
import type { EngineContext } from '#usecases/context'

const MINUTE_MS = 60_000

export class Pacer {
  readonly #context: EngineContext
  #nextAt = 0

  constructor(context: EngineContext) {
    this.#context = context
  }

  /** Resolves when it is one's turn; at once where no number is set. */
  async turn(): Promise<void> {
    const { aMinute } = sendingPace(this.#context.db)
    if (aMinute === null) return
    const now = this.#context.system.now()
    const at = Math.max(now, this.#nextAt)
    this.#nextAt = at + MINUTE_MS / aMinute
    if (at > now) await new Promise(resolve => setTimeout(resolve, at - now))
  }
}
