/** Division of whole numbers with a written rule for the rest. */

/** Written as calls: the build knows no whole numbers without end as literals. */
const [ONE, TWO] = [BigInt(1), BigInt(2)]

/**
 * `amount · part / whole`, rounded to a whole number, halves to even. Exact for
 * any whole numbers, `whole` above 0, `part` from 0 to `whole`.
 */
export function share(amount: number, part: number, whole: number): number {
  // Two amounts multiplied can be more than a number holds exactly.
  const product = BigInt(amount) * BigInt(part)
  const [quotient, rest] = [product / BigInt(whole), product % BigInt(whole)]
  const twice = rest * TWO
  const up = twice > BigInt(whole) || (twice === BigInt(whole) && quotient % TWO === ONE)
  return Number(up ? quotient + ONE : quotient)
}

/** Parts that add up to the whole and differ by one unit at most, the larger first. `parts` at least 1. */
export function inParts(amount: number, parts: number): number[] {
  const least = Math.floor(amount / parts)
  return Array.from({ length: parts }, (_, n) => least + (n < amount % parts ? 1 : 0))
}
