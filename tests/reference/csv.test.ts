/**
 * RFC 4180, "Common Format and MIME Type for Comma-Separated Values (CSV)
 * Files", section 2, and its examples; read back by readers of other authors.
 */
import { parse } from 'csv-parse/sync'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { csvLines } from '#core/exchange/csv'
import { findImport, importRowsAfter } from '#data/imports'
import { receiveImport } from '#usecases/know/importFile'
import { previewPastSales } from '#usecases/offers/pastSales'
import { openShop } from '../service/shop'
import { furnish, openContext } from '../service/workshop'

const read = async (text: string) => {
  const context = openContext()
  const id = await receiveImport(context, { fileName: 'a.csv', bytes: new TextEncoder().encode(text), encoding: null, delimiter: null })
  return [findImport(context.db, id)!.columns, ...importRowsAfter(context.db, id, 0, 100).map(({ cells }) => cells)]
}
const HEAD = 'email,bbb,ccc'
const who = 'a@example.com'

describe('what comes in', () => {
  it.each([
    ['1. records end with CRLF', `${HEAD}\r\n${who},yyy,zzz\r\n`, [[who, 'yyy', 'zzz']]],
    ['2. the last record may or may not have an ending line break', `${HEAD}\r\n${who},yyy,zzz`, [[who, 'yyy', 'zzz']]],
    ['4. spaces are part of a field', `${HEAD}\r\n${who}, y y ,zzz\r\n`, [[who, ' y y ', 'zzz']]],
    ['5. fields may or may not be enclosed in double quotes', `"email","bbb","ccc"\r\n"${who}","yyy",zzz\r\n`, [[who, 'yyy', 'zzz']]],
    [
      '6. line breaks, double quotes and commas are enclosed in double quotes', `${HEAD}\r\n${who},"b CRLF\r\nbb","c,cc"\r\n`,
      [[who, 'b CRLF\r\nbb', 'c,cc']],
    ],
    ['7. a double quote inside is escaped by another', `${HEAD}\r\n${who},"b""bb",ccc\r\n`, [[who, 'b"bb', 'ccc']]],
    [
      'beyond it, line ends of other systems, mixed in one file', `${HEAD}\n${who},1,2\r\nb@example.com,3,4\rc@example.com,5,6`,
      [[who, '1', '2'], ['b@example.com', '3', '4'], ['c@example.com', '5', '6']],
    ],
  ])('%s', async (_, text, rows) => {
    expect(await read(text)).toEqual([['email', 'bbb', 'ccc'], ...rows])
  })

  it('is what the reader of another author reads, too', async () => {
    const text = `${HEAD}\r\n${who},"a ""quoted"", word\r\nand a second line",é😀\r\nb@example.com,,"  "\r\n`
    expect(await read(text)).toEqual(Papa.parse<string[]>(text, { newline: '\r\n', skipEmptyLines: true }).data)
  })
})

it('a file of past sales is read by the same rules: quoted line ends, commas and quotes stay within their cell', async () => {
  const { context } = await openShop(await furnish(openContext()))
  const rows = [
    ['Order', 'E-mail', 'First name', 'Total', 'Date'], ['a,1', who, 'Ana "the\r\nbinder"', '1,234.50', '2026-04-02'],
    ['a"2', who, '', '5', '2026-04-02'],
  ]
  const view = await previewPastSales(context, {
    bytes: new TextEncoder().encode(Papa.unparse(rows, { newline: '\r\n' })), spec: null, unknown: 'bring', starts: false,
  })
  expect([view.columns[2]!.sample, view.ready, view.money]).toEqual([['Ana "the\r\nbinder"'], 2, [{ amount: 123_950, currency: 'EUR' }]])
})

it('what goes out is read the same by two readers of other authors', () => {
  const rows = [['email', 'note'], ['a@example.com', 'one, "two"\r\nthree'], ['b@example.com', ' é ; \t'], ['', '']]
  const text = csvLines(rows)
  expect(text.endsWith('\r\n')).toBe(true)
  expect(parse(text, { record_delimiter: '\r\n' })).toEqual(rows)
  expect(Papa.parse<string[]>(text.slice(0, -2), { newline: '\r\n' }).data).toEqual(rows)
})
