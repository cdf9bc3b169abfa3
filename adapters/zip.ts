/** Folders as ZIP files, and back. */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'

/** What a folder may come to when it is taken out, and how many files: a small file can hold very much. */
const MOST_BYTES = 20_000_000
const MOST_FILES = 500

export class ZipProblem extends Error {}

export function toZip(folder: Record<string, string>): Uint8Array {
  return zipSync(Object.fromEntries(Object.entries(folder).map(([name, text]) => [name, strToU8(text)])), { level: 6, mtime: new Date('2026-01-01T00:00:00Z') })
}

/** Text files only; a folder that everything stands in is taken off. Throws a {@link ZipProblem}. */
export function fromZip(bytes: Uint8Array): Record<string, string> {
  let total = 0
  let count = 0
  let files: Record<string, Uint8Array>
  try {
    files = unzipSync(bytes, {
      filter({ name, originalSize }) {
        if (name.endsWith('/') || name.startsWith('__MACOSX/') || !/\.(md|ya?ml)$/i.test(name)) return false
        total += originalSize
        count += 1
        if (total > MOST_BYTES || count > MOST_FILES) throw new ZipProblem('There is too much in this file for a course.')
        return true
      },
    })
  }
  catch (error) {
    throw error instanceof ZipProblem ? error : new ZipProblem('This file cannot be opened as a ZIP file.')
  }
  const names = Object.keys(files)
  const root = names.length > 0 && names.every(name => name.includes('/') && name.split('/')[0] === names[0]!.split('/')[0]) && !names.includes('course.yaml') ? `${names[0]!.split('/')[0]}/` : ''
  return Object.fromEntries(names.map(name => [name.slice(root.length), strFromU8(files[name]!)]))
}
