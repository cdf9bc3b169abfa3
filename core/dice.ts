/**
 * Dice from a seed: numbers from 0 up to, but not including, 1, the same every
 * time after the same seed. Mulberry32 by Tommy Ettinger, public domain.
 */
export function diceOf(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}
