/** A table that came in, and what importing it would do. */
import type { Delimiter, ImportColumn } from '#core/exchange/importing'
import type { Encoding } from '#core/exchange/encoding'

export interface ImportView {
  id: number
  fileName: string
  encoding: Encoding
  delimiter: Delimiter
  /** Rows that are not blank, without the names. */
  rows: number
  columns: { name: string, samples: string[] }[]
  /** What each column most likely holds. */
  guess: ImportColumn[]
}

export interface ImportPlan {
  new: number
  updated: number
  unchanged: number
  refused: number
  /** The first of them; `row` as a spreadsheet counts. */
  firstRefused: { row: number, address: string, problem: string }[]
  /** Rows that come in without a cell that cannot be read, and the first of them. */
  odd: number
  firstOdd: { row: number, address: string, problem: string }[]
  /** Tags named in the file that are not there yet and will be made. */
  newTags: string[]
  /** Courses that would begin, for at most so many people. */
  begins: { course: string, people: number }[]
  /** Rows that come in as gone: unsubscribed, bounced or complained. */
  gone: number
  /** Lists named in the file that are not there yet and will be made. */
  newLists: string[]
  /** New people who need consent on record and would have none. */
  withoutConsent: number
}

export interface UploadQuery { name: string, encoding: Encoding | null, delimiter: Delimiter | null }
