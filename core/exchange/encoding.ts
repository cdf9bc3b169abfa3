/** How the bytes of a text file are meant: told by its mark, or by what the bytes can be. */

export const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const
export type Encoding = typeof ENCODINGS[number]

export const ENCODING_WORDS: Record<Encoding, string> = {
  'utf-8': 'UTF-8', 'utf-16le': 'UTF-16', 'utf-16be': 'UTF-16, big end first', 'windows-1252': 'Windows-1252',
}

export type FoundEncoding = { ok: true, encoding: Encoding } | { ok: false, problem: string }

const MARKS: [Encoding, number[]][] = [['utf-8', [0xEF, 0xBB, 0xBF]], ['utf-16le', [0xFF, 0xFE]], ['utf-16be', [0xFE, 0xFF]]]

/** Files that people take for a table, by their first bytes. */
const OTHER_FILES: [number[], string][] = [
  [[0x50, 0x4B, 0x03, 0x04], 'This is a spreadsheet workbook or a zip file. Open it in your spreadsheet and save it as CSV.'],
  [[0xD0, 0xCF, 0x11, 0xE0], 'This is an old spreadsheet workbook. Open it in your spreadsheet and save it as CSV.'],
  [[0x25, 0x50, 0x44, 0x46], 'This is a PDF, not a table. Save the table as CSV where it came from.'],
  [[0x89, 0x50, 0x4E, 0x47], 'This is a picture, not a table.'],
  [[0xFF, 0xD8, 0xFF], 'This is a picture, not a table.'],
  [[0x1F, 0x8B], 'This file is compressed. Unpack it first.'],
]

/** `wanted` is what the owner says it is; null looks at the bytes. */
export function findEncoding(bytes: Uint8Array, wanted: Encoding | null): FoundEncoding {
  const wrong = (problem: string): FoundEncoding => ({ ok: false, problem })
  if (bytes.length === 0) return wrong('The file is empty.')
  const other = OTHER_FILES.find(([mark]) => begins(bytes, mark))
  if (other) return wrong(other[1])
  const marked = MARKS.find(([, mark]) => begins(bytes, mark))?.[0] ?? null
  const encoding = wanted ?? marked ?? wideBytes(bytes)
  if (encoding === 'utf-16le' || encoding === 'utf-16be') return bytes.length % 2 === 0
    ? { ok: true, encoding }
    : wrong('The file ends in the middle of a character. It was cut off, or is not UTF-16.')
  if (bytes.includes(0)) return wrong('This is not a text file. Save the table as CSV in UTF-8.')
  const utf8 = readUtf8(bytes)
  if (encoding === 'utf-8') return utf8.badAt === null ? { ok: true, encoding } : wrong(
    `The file ${marked ? 'says that it is' : 'was to be read as'} UTF-8, but is broken in line ${lineOf(bytes, utf8.badAt)}. Save it again as CSV in UTF-8.`,
  )
  if (encoding === null && utf8.badAt === null) return { ok: true, encoding: 'utf-8' }
  if (encoding === null && utf8.letters > 0) return wrong(
    `The file is partly UTF-8 and partly something else, from line ${lineOf(bytes, utf8.badAt!)} on. Save it again as CSV in UTF-8.`,
  )
  const undefinedAt = bytes.findIndex(byte => byte === 0x81 || byte === 0x8D || byte === 0x8F || byte === 0x90 || byte === 0x9D)
  if (undefinedAt >= 0) return wrong(
    `The file is neither UTF-8 nor Windows-1252: line ${lineOf(bytes, undefinedAt)} has a character that is in neither. Save it again as CSV in UTF-8.`,
  )
  return { ok: true, encoding: 'windows-1252' }
}

function begins(bytes: Uint8Array, mark: number[]): boolean {
  return mark.every((byte, n) => bytes[n] === byte)
}

/** UTF-16 without a mark has a zero beside nearly every Latin letter. */
function wideBytes(bytes: Uint8Array): Encoding | null {
  const head = bytes.subarray(0, 4096)
  let even = 0
  let odd = 0
  for (let n = 0; n < head.length; n++) {
    if (head[n] !== 0) continue
    if (n % 2 === 0) even++
    else odd++
  }
  if (odd > head.length / 4 && even < odd / 8) return 'utf-16le'
  return even > head.length / 4 && odd < even / 8 ? 'utf-16be' : null
}

/** The first byte that cannot be UTF-8 (RFC 3629), and how many letters of more than one byte were whole. */
function readUtf8(bytes: Uint8Array): { badAt: number | null, letters: number } {
  let letters = 0
  let badAt: number | null = null
  for (let n = 0; n < bytes.length;) {
    const first = bytes[n]!
    const more = first < 0x80
      ? 0
      : first >= 0xC2 && first <= 0xDF ? 1 : first >= 0xE0 && first <= 0xEF ? 2 : first >= 0xF0 && first <= 0xF4 ? 3 : -1
    let whole = more >= 0
    for (let k = 1; k <= more && whole; k++) {
      const byte = bytes[n + k] ?? 0
      const [low, high] = k > 1 ? [0x80, 0xBF] : first === 0xE0
        ? [0xA0, 0xBF]
        : first === 0xED ? [0x80, 0x9F] : first === 0xF0 ? [0x90, 0xBF] : first === 0xF4 ? [0x80, 0x8F] : [0x80, 0xBF]
      whole = byte >= low && byte <= high
    }
    if (whole) {
      if (more > 0) letters++
      n += more + 1
    }
    else {
      badAt ??= n
      n++
    }
  }
  return { badAt, letters }
}

function lineOf(bytes: Uint8Array, at: number): number {
  let line = 1
  for (let n = 0; n < at; n++) if (bytes[n] === 0x0A) line++
  return line
}
