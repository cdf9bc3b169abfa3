/** Rates that say what they are rates of. */

export interface Rate {
  part: number
  whole: number
  /** 0 to 1; null when there is nothing to take a rate of. */
  value: number | null
  /** 95 % interval, 0 to 1. */
  low: number | null
  high: number | null
}

/** The 97.5 % point of the normal distribution, for intervals of 95 %. */
const Z = 1.959963984540054

/**
 * A rate with the Wilson score interval without continuity correction:
 * method 3 of R. G. Newcombe, Statistics in Medicine 17 (1998), 857-872.
 * `part` and `whole` are counts with 0 <= part <= whole; throws a RangeError otherwise.
 */
export function rateOf(part: number, whole: number): Rate {
  if (!Number.isInteger(part) || !Number.isInteger(whole) || part < 0 || part > whole) {
    throw new RangeError(`A rate needs whole numbers with 0 <= part <= whole; these came: ${part} of ${whole}`)
  }
  if (whole === 0) return { part, whole, value: null, low: null, high: null }
  const share = part / whole
  const middle = 2 * part + Z * Z
  const spread = Z * Math.sqrt(Z * Z + 4 * part * (1 - share))
  const span = 2 * (whole + Z * Z)
  return {
    part,
    whole,
    value: share,
    low: part === 0 ? 0 : Math.max(0, (middle - spread) / span),
    high: part === whole ? 1 : Math.min(1, (middle + spread) / span),
  }
}
