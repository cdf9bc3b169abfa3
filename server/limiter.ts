/** At most so many within so long, per key; old keys are forgotten. */

export interface LimiterOptions { most: number, perMs: number, now(): number }

/** More keys than this at once are an attack, not visitors: the oldest are dropped. */
const MOST_KEYS = 50_000

export class Limiter {
  readonly #times = new Map<string, number[]>()
  constructor(readonly options: LimiterOptions) {}

  /** Counts one more for `key`; false if that is too many. */
  allows(key: string): boolean {
    const now = this.options.now()
    const recent = (this.#times.get(key) ?? []).filter(time => time > now - this.options.perMs)
    const fits = recent.length < this.options.most
    if (fits) recent.push(now)
    // Setting it anew moves the key to the end, so that the first one is the longest unseen.
    this.#times.delete(key)
    this.#times.set(key, recent)
    if (this.#times.size > MOST_KEYS) this.#times.delete(this.#times.keys().next().value!)
    return fits
  }

  forget(key: string): void {
    this.#times.delete(key)
  }
}
