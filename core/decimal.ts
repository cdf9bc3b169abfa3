/** Numbers as people type them. */

/**
 * `1234.5`, `1,234.5` and `1.234,5` as `1234.5`; a lone comma is a decimal comma unless three digits follow a first group. Null for what is
 * no number.
 */
export function plainDecimal(text: string): string | null {
  const plain = text.replace(/[\s\u00a0\u202f']/g, '')
  if (!/^[+-]?[\d.,]*\d[\d.,]*$/.test(plain)) return null
  const lastComma = plain.lastIndexOf(',')
  const lastDot = plain.lastIndexOf('.')
  const grouped = (sign: string) => new RegExp(`^[+-]?\\d{1,3}(\\${sign}\\d{3})+$`).test(plain)
  if (lastComma >= 0 && lastDot >= 0) {
    const [group, decimal] = lastComma > lastDot ? ['.', ','] as const : [',', '.'] as const
    const [whole, ...rest] = plain.split(decimal)
    if (rest.length !== 1 || !new RegExp(`^[+-]?\\d{1,3}(\\${group}\\d{3})+$`).test(whole!)) return null
    return `${whole!.replaceAll(group, '')}.${rest[0]}`
  }
  if (lastComma >= 0) {
    const written = grouped(',') ? plain.replaceAll(',', '') : plain.replace(',', '.')
    return written.includes(',') ? null : written
  }
  return plain.indexOf('.') === lastDot ? plain : grouped('.') ? plain.replaceAll('.', '') : null
}
