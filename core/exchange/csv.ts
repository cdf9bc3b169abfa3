/** Comma-separated values as RFC 4180 has them, safe to open in a spreadsheet. */
import Papa from 'papaparse'

/**
 * What a spreadsheet takes for a formula (=, +, -, @), also in the full and small widths that East Asian ones read as the same
 * (compatibility forms, UAX 15), and behind blanks and signs without width that it skips; behind apostrophes, what was defused already.
 */
const FORMULA = /^'*(?:[\s\u200B-\u200F\u2060]*[=+\-@−]|[\t\r\n])/
const isFormula = (cell: string): boolean => FORMULA.test(cell) || FORMULA.test(cell.normalize('NFKC'))

/** A cell that would be read as a formula gets an apostrophe before it, which spreadsheets do not show. A number stays one. */
export function defuse(cell: string): string {
  return isFormula(cell) && !/^-?\d+(\.\d+)?$/.test(cell) ? `'${cell}` : cell
}

/** The inverse of {@link defuse}, for files that come back to us. */
export function undefuse(cell: string): string {
  return cell.startsWith('\'') && isFormula(cell) ? cell.slice(1) : cell
}

/** Several names in one cell, in the manner of RFC 4180: one that holds a comma, a semicolon, a quote or a line end stands in quotes. */
export const joinNames = (names: string[]): string =>
  names.map(name => /[",;\r\n]/.test(name) ? `"${name.replaceAll('"', '""')}"` : name).join(', ')

/** The inverse of {@link joinNames}: parted by commas, semicolons or line ends outside quotes, doubled names once. */
export function partNames(cell: string): string[] {
  const names = new Map<string, string>()
  // A name in quotes up to the next sign, or whatever stands up to it; a quote that never closes is a letter like others.
  for (const [, quoted, plain] of cell.matchAll(/\s*(?:"((?:[^"]|"")*)"(?=\s*(?:[,;\n]|$))|([^,;\n]+))/g)) {
    const name = (quoted?.replaceAll('""', '"') ?? plain ?? '').replace(/\s+/g, ' ').trim()
    if (name !== '' && !names.has(name.toLowerCase())) names.set(name.toLowerCase(), name)
  }
  return [...names.values()]
}

/** Rows as lines, each ended by CR and LF (RFC 4180 section 2.1). */
export function csvLines(rows: string[][]): string {
  return rows.length === 0 ? '' : `${Papa.unparse(rows.map(row => row.map(defuse)), { newline: '\r\n' })}\r\n`
}
