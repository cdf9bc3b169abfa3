/** One that is not used again: how many came to a result page is counted by it, also after it was taken out. */
export const freshId = (letter: string): string => `${letter}${100_000 + crypto.getRandomValues(new Uint32Array(1))[0]! % 900_000}`

/** A short word that none of these has yet: `a3`. */
export function freeId(letter: string, taken: readonly { id: string }[]): string {
  let n = taken.length + 1
  while (taken.some(({ id }) => id === `${letter}${n}`)) n++
  return `${letter}${n}`
}
