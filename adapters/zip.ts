/** Folders as ZIP files, and back. */
import { strFromU8, strToU8, Unzip, UnzipInflate, zipSync } from 'fflate'

/** What a folder may come to when it is taken out, and how many files: a small file can hold very much. */
const MOST_BYTES = 20_000_000
const MOST_FILES = 500
/** So many entries may be passed over. */
const MOST_ENTRIES = 5000
/** The file is read in slices, so that what is too much is known before more of it is made. */
const SLICE = 16_384

export class ZipProblem extends Error {}

export function toZip(folder: Record<string, string>): Uint8Array {
  return zipSync(
    Object.fromEntries(Object.entries(folder).map(([name, text]) => [name, strToU8(text)])),
    { level: 6, mtime: new Date('2026-01-01T00:00:00Z') },
  )
}

/**
 * Text files only; a folder that everything stands in is taken off. What a file says of its sizes is not believed: what comes out is
 * counted. Throws a {@link ZipProblem}.
 */
export function fromZip(bytes: Uint8Array): Record<string, string> {
  const files = new Map<string, Uint8Array[]>()
  const unfinished = new Set<string>()
  let total = 0
  let entries = 0
  const tooMuch = () => new ZipProblem('This file is too large for a course.')
  const unzip = new Unzip((file) => {
    if (++entries > MOST_ENTRIES) throw tooMuch()
    const { name } = file
    if (name.endsWith('/') || name.startsWith('__MACOSX/') || !/\.(md|ya?ml)$/i.test(name)) return
    if (files.size >= MOST_FILES) throw tooMuch()
    const chunks: Uint8Array[] = []
    files.set(name, chunks)
    unfinished.add(name)
    file.ondata = (error, chunk, isLast) => {
      if (error) throw error
      total += chunk.length
      if (total > MOST_BYTES) throw tooMuch()
      chunks.push(chunk)
      if (isLast) unfinished.delete(name)
    }
    file.start()
  })
  try {
    unzip.register(UnzipInflate)
    for (let at = 0; at < bytes.length; at += SLICE) unzip.push(bytes.subarray(at, at + SLICE), at + SLICE >= bytes.length)
  }
  catch (error) {
    throw error instanceof ZipProblem ? error : new ZipProblem('This file cannot be opened as a ZIP file.')
  }
  if (unfinished.size > 0 || entries === 0) throw new ZipProblem('This file cannot be opened as a ZIP file.')
  const names = [...files.keys()]
  const root = names.length > 0 && names.every(name => name.includes('/') && name.split('/')[0] === names[0]!.split('/')[0])
    && !names.includes('course.yaml') ? `${names[0]!.split('/')[0]}/` : ''
  return Object.fromEntries(names.map(name => [name.slice(root.length), textOf(files.get(name)!)]))
}

function textOf(chunks: readonly Uint8Array[]): string {
  const whole = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const chunk of chunks) {
    whole.set(chunk, at)
    at += chunk.length
  }
  return strFromU8(whole)
}
