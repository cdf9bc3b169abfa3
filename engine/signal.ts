/** Something that lanes wait for: that there may be work again. A signal that comes while nobody waits is not lost. */
export class Signal {
  #count = 0
  readonly #waiting = new Set<() => void>()

  raise(): void {
    this.#count++
    for (const wake of [...this.#waiting]) wake()
  }

  /** To be given to {@link after}: what is raised from now on counts. */
  seen(): number {
    return this.#count
  }

  /** Resolves at the first signal after that, or after so long. */
  async after(seen: number, ms: number): Promise<void> {
    if (this.#count !== seen) return
    await new Promise<void>((resolve) => {
      const wake = () => {
        clearTimeout(timer)
        this.#waiting.delete(wake)
        resolve()
      }
      const timer = setTimeout(wake, ms)
      this.#waiting.add(wake)
    })
  }

  /** Resolves after so long, whatever is raised, or once `isOver`. */
  async never(ms: number, isOver: () => boolean): Promise<void> {
    const until = performance.now() + ms
    while (!isOver() && performance.now() < until) await this.after(this.seen(), until - performance.now())
  }
}
