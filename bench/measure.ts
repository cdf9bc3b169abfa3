/** Times and their middle. */

/** Milliseconds. */
export function timed<Result>(work: () => Result): { ms: number, result: Result } {
  const before = performance.now()
  const result = work()
  return { ms: performance.now() - before, result }
}

/** The value below which `part` (0 to 1) of them lie. */
export function percentile(values: number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))]!
}

export const median = (values: number[]) => percentile(values, 0.5)

/** Two ways of doing the same, turn and turn about, so that neither has the warmer cache. */
export function sideBySide(rounds: number, ours: () => unknown, theirs: () => unknown): { ours: number, theirs: number } {
  const [a, b]: [number[], number[]] = [[], []]
  ours()
  theirs()
  for (let n = 0; n < rounds; n++) {
    a.push(timed(ours).ms)
    b.push(timed(theirs).ms)
  }
  return { ours: median(a), theirs: median(b) }
}

export const ms = (value: number) => value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString('en-GB')
export const ratio = (value: number) => value.toFixed(2)
