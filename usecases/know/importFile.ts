/** A file of people comes in: its rows are kept as they are, and nothing is done with them yet. */
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { CsvError, parse } from 'csv-parse'
import { findEncoding, type Encoding } from '#core/exchange/encoding'
import { addressIn, columnNames, DELIMITER_WORDS, guessColumns, guessDelimiter, type Delimiter } from '#core/exchange/importing'
import type { ImportView } from '#core/views/imports'
import { readTogether } from '#data/connection'
import { allFields } from '#data/fields'
import {
  countImportRows, deleteImport, findImport, importRowsAfter, importsNotBegun, insertImport, insertImportRows, setImportRead, type RawRow,
} from '#data/imports'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere } from '../problem'
import { sayNumber } from '#core/stats/say'

export interface IncomingFile {
  fileName: string
  bytes: Uint8Array
  /** Null to find out. */
  encoding: Encoding | null
  delimiter: Delimiter | null
}

/** Longer than any row of a table of people; a file without line ends is told as such before it fills the memory. */
const LONGEST_ROW = 1_000_000
const MOST_ROWS = 500_000
const MOST_COLUMNS = 200
const BATCH = 1000
const SLICE = 256 * 1024
const BREATH_MS = 2
/** Lines with nothing in them, one after the other: more than that is no table. */
const MOST_BLANK = 100_000

/** Keeps the rows of a file and returns its number. What cannot be read is refused whole, with the place where it goes wrong. */
export async function receiveImport(context: WorkspaceContext, file: IncomingFile): Promise<number> {
  const { db } = context
  /** What was refused first: ended in the midst of it, a stream may say something else. */
  let refused: InputProblem | null = null
  const refuse = (problem: string) => refused = new InputProblem([{ field: 'file', problem }])
  const found = findEncoding(file.bytes, file.encoding)
  if (!found.ok) throw refuse(found.problem)
  const { encoding } = found
  const head = new TextDecoder(encoding).decode(file.bytes.subarray(0, SLICE), { stream: true })
  // A line that some spreadsheets write above the names to say the sign.
  const told = /^sep=([,;\t])\r?\n/i.exec(head)
  const delimiter = file.delimiter ?? (told?.[1] as Delimiter | undefined) ?? guessDelimiter(head)
  const id = transact(context, () => {
    for (const old of importsNotBegun(db)) deleteImport(db, old)
    return insertImport(db, { fileName: file.fileName, encoding, delimiter, madeAt: context.clock.now() })
  })
  let names: string[] | null = null
  let rowNumber = told ? 1 : 0
  let kept = 0
  let blank = 0
  let waiting: Pick<RawRow, 'rowNumber' | 'cells'>[] = []
  const keep = () => {
    if (waiting.length === 0) return
    transact(context, () => insertImportRows(db, id, kept + 1, waiting))
    kept += waiting.length
    waiting = []
  }
  // Somebody who waits to write gets in between two bits.
  const breathe = () => new Promise<void>(resolve => setTimeout(resolve, BREATH_MS))
  try {
    const parser = parse({
      delimiter, relax_column_count: true, relax_quotes: true, max_record_size: LONGEST_ROW, record_delimiter: ['\r\n', '\n', '\r'],
      from_line: told ? 2 : 1,
    })
    await pipeline(Readable.from(textOf(file.bytes, encoding)), parser, async (records: AsyncIterable<string[]>) => {
      for await (const cells of records) {
        rowNumber++
        if (cells.every(cell => cell.trim() === '')) {
          if (++blank > MOST_BLANK) {
            throw refuse(`The file has more than ${sayNumber(MOST_BLANK)} empty lines. Save the table again without them.`)
          }
          continue
        }
        if (names === null) {
          if (cells.length > MOST_COLUMNS) throw refuse(`The first line has ${cells.length} columns; at most ${MOST_COLUMNS} can come in.`)
          // A file whose first line is somebody already has no names above its columns.
          const headless = cells.some(cell => addressIn(cell).address.ok)
          names = columnNames(headless ? cells.map(() => '') : cells)
          if (!headless) continue
        }
        waiting.push({ rowNumber, cells })
        if (kept + waiting.length > MOST_ROWS) {
          throw refuse(`The file has more than ${sayNumber(MOST_ROWS)} rows. Split it and import the parts.`)
        }
        if (waiting.length < BATCH) continue
        keep()
        await breathe()
      }
    })
    keep()
    const columns = names as string[] | null
    if (columns === null) throw refuse('The file is empty.')
    if (kept === 0) throw refuse('The file has column names, but no rows.')
    transact(context, () => setImportRead(db, id, columns))
    const view = importView(context, id)
    if (!view.guess.some(({ target }) => target.kind === 'address')
      && !view.columns.some(({ samples }) => samples.some(sample => addressIn(sample).address.ok))) {
      const has = columns.length === 1
        ? `Everything is in one column. Is it a table, with columns separated by ${DELIMITER_WORDS[delimiter]}?`
        : `It has ${columns.slice(0, 8).join(', ')}.`
      throw refuse(`No column holds email addresses. ${has}`)
    }
    return id
  }
  catch (error) {
    transact(context, () => deleteImport(db, id))
    throw refused ?? (error instanceof CsvError ? refuse(sayCsvError(error, Number(error.records) + (told ? 2 : 1))) : error)
  }
}

function sayCsvError(error: CsvError, row: number): string {
  switch (error.code) {
    case 'CSV_MAX_RECORD_SIZE': return `Row ${row} is longer than a million letters: this is not a table of people, or a quote in it never closes.`
    case 'CSV_QUOTE_NOT_CLOSED': return `A quote that opens in row ${row} never closes. Nothing was kept.`
    default: return `Row ${row} cannot be read: ${error.message}`
  }
}

function* textOf(bytes: Uint8Array, encoding: Encoding): Iterable<string> {
  const decoder = new TextDecoder(encoding)
  for (let at = 0; at < bytes.length; at += SLICE) {
    const text = decoder.decode(bytes.subarray(at, at + SLICE), { stream: true })
    if (text !== '') yield text
  }
  const rest = decoder.decode()
  if (rest !== '') yield rest
}

/** Rows looked at for samples. */
const LOOKED_AT = 200
const SAMPLES = 3

export function importView({ db }: WorkspaceContext, id: number): ImportView {
  return readTogether(db, () => {
    const found = findImport(db, id)
    if (!found || found.state === 'reading') throw new NotThere('This file no longer exists. Drop it again.')
    const rows = importRowsAfter(db, id, 0, LOOKED_AT)
    const cellsOf = (column: number) => rows.map(({ cells }) => (cells[column] ?? '').trim()).filter(Boolean)
    const samples = found.columns.map((_, n) => cellsOf(n))
    const { fileName, encoding, delimiter, columns } = found
    return {
      id, fileName, encoding, delimiter, rows: countImportRows(db, id),
      columns: columns.map((name, n) => ({ name, samples: [...new Set(samples[n])].slice(0, SAMPLES) })),
      guess: guessColumns(columns, samples, allFields(db)),
    }
  })
}
