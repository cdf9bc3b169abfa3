/** How many emails at once, and so many a minute and no more, evenly. */
import { sendingPace } from '#data/carrier'
import type { EngineContext } from '#usecases/context'

const MINUTE_MS = 60_000
/** What the owner has set is asked for so often: every lane asks before every email. */
const FRESH_MS = 250

export class Pacer {
  readonly #context: EngineContext
  #nextAt = 0
  #readAt = Number.NEGATIVE_INFINITY
  #width = 0
  #aMinute: number | null = null

  constructor(context: EngineContext) {
    this.#context = context
  }

  /** Whether that lane, counted from 0, is one of those that may hand over now. */
  isWithin(lane: number): boolean {
    this.#read()
    return lane < this.#width
  }

  /** Resolves when it is one's turn; at once where no number is set. */
  async turn(): Promise<void> {
    this.#read()
    if (this.#aMinute === null) return
    const now = this.#context.system.now()
    const at = Math.max(now, this.#nextAt)
    this.#nextAt = at + MINUTE_MS / this.#aMinute
    if (at > now) await new Promise(resolve => setTimeout(resolve, at - now))
  }

  #read(): void {
    const now = this.#context.system.now()
    if (now - this.#readAt < FRESH_MS) return
    this.#readAt = now
    this.#width = this.#context.carrier.width
    this.#aMinute = sendingPace(this.#context.db).aMinute
  }
}
