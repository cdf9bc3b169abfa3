/** Past sales from a file: looked at as often as wanted, and brought in once. */
import { Readable } from 'node:stream'
import { CsvError, parse } from 'csv-parse'
import { findEncoding } from '#core/exchange/encoding'
import { undefuse } from '#core/exchange/csv'
import { columnNames, guessDelimiter } from '#core/exchange/importing'
import { guessSaleColumns, NEEDED, readSale, type PastSale, type SalesSpec } from '#core/exchange/sales'
import { sumsOf } from '#core/money/money'
import { checkAddress } from '#core/people/address'
import type { PastSalesView } from '#core/views/offers'
import { readTogether, type Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findOffer, offerNames } from '#data/offers'
import { findPersonByKey } from '#data/people'
import { findCheckout, findPurchaseOfOrder } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'
import { tell } from './tell'
import { sayNumber } from '#core/stats/say'

export interface PastSales {
  bytes: Uint8Array
  /** Null to guess what the columns say. */
  spec: SalesSpec | null
  /** Whose address nobody here has: their rows are left out, or they come in as subscribers. */
  unknown: 'leave' | 'bring'
  /** Whether courses begin and house rules wake as if it had been sold today. */
  starts: boolean
}

const MOST_ROWS = 20_000
const MOST_COLUMNS = 100
const LONGEST_ROW = 100_000
const SHOWN = 100
const BATCH = 25

interface PastSalesPreview { view: PastSalesView, sales: PastSale[] }

/** What would come in; nothing does. */
export const previewPastSales = async (context: WorkspaceContext, file: PastSales): Promise<PastSalesView> =>
  (await look(context, file)).view

/**
 * Each row as a purchase, dated when it was sold. What is here already is passed over: the same file twice changes nothing, also where the
 * first time broke off.
 */
export async function bringPastSales(context: WorkspaceContext, file: PastSales): Promise<PastSalesView> {
  const { db } = context
  const { view, sales } = await look(context, file)
  if (view.lacks.length > 0) throw new InputProblem([{ field: 'columns', problem: 'First choose what the columns are.' }])
  if (sales.length === 0) throw new InputProblem([{ field: 'file', problem: 'There is nothing in this file to import.' }])
  const slugs = new Map(offerNames(db).map(({ id, slug }) => [id, slug]))
  const causeId = transact(context, () => appendEvent(db, 'sales-imported', context.clock.now()))
  for (let n = 0; n < sales.length; n += BATCH) {
    transact(context, () => {
      for (const { order, email, firstName, offerId, amount, currency, at, coupon } of sales.slice(n, n + BATCH)) {
        tell(context, `csv.${order}`, {
          order, fact: { kind: 'paid', ref: 'csv', at, amount }, currency, sale: { offer: slugs.get(offerId)!, email, firstName, coupon },
        }, { by: 'csv', quiet: !file.starts, causeId })
      }
    })
    // Whoever opts in meanwhile does not wait for all of them.
    await new Promise(resolve => setTimeout(resolve, 2))
  }
  return view
}

async function look(context: WorkspaceContext, { bytes, spec: wanted, unknown }: PastSales): Promise<PastSalesPreview> {
  const { db } = context
  const rows = await rowsOf(bytes)
  return readTogether(db, () => {
    const { zone, currency } = workspaceOf(db)
    const names = columnNames(rows[0]?.cells ?? [])
    const spec: SalesSpec = wanted
      ?? { columns: guessSaleColumns(names), dateOrder: 'day-month-year', offerId: offerNames(db)[0]?.id ?? null, currency }
    if (spec.offerId !== null && !findOffer(db, spec.offerId)) {
      throw new InputProblem([{ field: 'offerId', problem: 'This offer no longer exists.' }])
    }
    const offers = new Map(offerNames(db).flatMap(({ id, name, slug }) => [[name.toLowerCase(), id], [slug, id]] as const))
    const lacks = NEEDED.filter(target => !spec.columns.includes(target))
    const sales: PastSale[] = []
    const problems: PastSalesView['problems'] = []
    const count = { known: 0, unknown: 0, newcomers: 0, wrong: 0 }
    const seen = new Map<string, number>()
    const newcomers = new Set<string>()
    for (const { row, cells } of rows.slice(1)) {
      const read = readSale(cells, spec, { offers, zone, now: context.clock.now() })
      const problem = lacks.length > 0 ? null : read.ok
        ? seen.has(read.sale.order) ? `The order ${read.sale.order} is in row ${seen.get(read.sale.order)} already.` : null
        : read.problem
      if (lacks.length > 0) continue
      if (!read.ok || problem !== null) {
        count.wrong++
        if (problems.length < SHOWN) problems.push({ row, problem: problem! })
        continue
      }
      seen.set(read.sale.order, row)
      if (isHere(db, read.sale.order)) {
        count.known++
        continue
      }
      const { key } = addressOf(read.sale.email)
      if (!findPersonByKey(db, key)) {
        if (unknown === 'leave') {
          count.unknown++
          continue
        }
        newcomers.add(key)
      }
      sales.push(read.sale)
    }
    return {
      sales,
      view: {
        spec, columns: names.map((name, n) => ({ name, sample: rows.slice(1, 4).map(({ cells }) => cells[n] ?? '').filter(Boolean) })),
        lacks, rows: Math.max(0, rows.length - 1), ready: sales.length, ...count, newcomers: newcomers.size,
        money: sumsOf(sales), problems,
      },
    }
  })
}

const isHere = (db: Database, order: string): boolean =>
  findPurchaseOfOrder(db, order) !== undefined || findCheckout(db, order) !== undefined

function addressOf(email: string): { key: string } {
  const checked = checkAddress(email)
  if (!checked.ok) throw new Error('The address was looked at before')
  return checked.address
}

/** The names above the columns come first. Rows are numbered as an editor numbers lines of cells. */
async function rowsOf(bytes: Uint8Array): Promise<{ row: number, cells: string[] }[]> {
  const refuse = (problem: string) => new InputProblem([{ field: 'file', problem }])
  const found = findEncoding(bytes, null)
  if (!found.ok) throw refuse(found.problem)
  const text = new TextDecoder(found.encoding).decode(bytes)
  const rows: { row: number, cells: string[] }[] = []
  let row = 0
  try {
    for await (const cells of Readable.from([text]).pipe(parse({
      delimiter: guessDelimiter(text.slice(0, 100_000)), relax_column_count: true, relax_quotes: true, max_record_size: LONGEST_ROW,
      record_delimiter: ['\r\n', '\n', '\r'],
    })) as AsyncIterable<string[]>) {
      row++
      if (cells.every(cell => cell.trim() === '')) continue
      if (cells.length > MOST_COLUMNS) throw refuse(`Row ${row} has ${cells.length} columns; at most ${MOST_COLUMNS} can come in.`)
      rows.push({ row, cells: cells.map(undefuse) })
      if (rows.length > MOST_ROWS + 1) {
        throw refuse(`The file has more than ${sayNumber(MOST_ROWS)} rows. Split it and import the parts.`)
      }
    }
  }
  catch (error) {
    if (error instanceof CsvError) throw refuse(`Row ${row + 1} cannot be read: ${error.message}`)
    throw error
  }
  if (rows.length === 0) throw refuse('This file is empty.')
  return rows
}
