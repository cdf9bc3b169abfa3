import fc from 'fast-check'
import { parse } from 'csv-parse/sync'
import { describe, expect, it } from 'vitest'
import type { Status } from '#core/people/status'
import { csvLines, defuse, joinNames, partNames, undefuse } from '#core/exchange/csv'
import { findEncoding } from '#core/exchange/encoding'
import {
  checkImportSpec, columnNames, guessColumns, guessDelimiter, readRow, seemsToTellWhoLeft, type ImportColumn, type ImportSpec,
} from '#core/exchange/importing'
import { changeOf, knownAfter, type KnownPerson } from '#core/exchange/rowChange'
import type { Field } from '#core/people/field'

const bytes = (text: string, encoding: BufferEncoding = 'utf8') => new Uint8Array(Buffer.from(text, encoding))
const wide = (text: string, big = false) => {
  const buffer = Buffer.from(text, 'utf16le')
  return new Uint8Array(big ? buffer.swap16() : buffer)
}

describe('the encoding of a file', () => {
  it('is told by its mark or by its bytes', () => {
    const found = (given: Uint8Array) => findEncoding(given, null)
    expect(found(bytes('email\nada@example.com'))).toEqual({ ok: true, encoding: 'utf-8' })
    expect(found(bytes('﻿email\nzoë@example.com'))).toEqual({ ok: true, encoding: 'utf-8' })
    expect(found(wide('﻿email\nzoë@example.com'))).toEqual({ ok: true, encoding: 'utf-16le' })
    expect(found(wide('﻿email\nzoë@example.com', true))).toEqual({ ok: true, encoding: 'utf-16be' })
    expect(found(wide('email\nada@example.com'))).toEqual({ ok: true, encoding: 'utf-16le' })
    expect(found(bytes('name\nZoë', 'latin1'))).toEqual({ ok: true, encoding: 'windows-1252' })
  })

  it('is refused with its place where no reading fits', () => {
    const problem = (given: Uint8Array, wanted: 'utf-8' | null = null) => {
      const found = findEncoding(given, wanted)
      return found.ok ? '' : found.problem
    }
    expect(problem(new Uint8Array())).toBe('The file is empty.')
    expect(problem(bytes('PK\x03\x04rest', 'latin1'))).toMatch(/spreadsheet workbook/)
    expect(problem(bytes('%PDF-1.7'))).toMatch(/PDF/)
    expect(problem(bytes('email\nada\0@example.com'))).toMatch(/not a text file/)
    expect(problem(new Uint8Array([...bytes('email\nzoë\nadé'), 0xE9, 0x0A]))).toMatch(
      /partly UTF-8 and partly something else, from line 3/,
    )
    expect(problem(bytes('name\nZoë', 'latin1'), 'utf-8')).toMatch(/broken in line 2/)
    expect(problem(new Uint8Array([0x61, 0x0A, 0x81]))).toMatch(/neither UTF-8 nor Windows-1252: line 2/)
    expect(problem(new Uint8Array([0xFF, 0xFE, 0x61]))).toMatch(/middle of a character/)
  })

  it('never takes valid UTF-8 for anything else, and decodes to what was written', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme', minLength: 1 })
      .filter(text => !text.includes('\0') && !text.startsWith('PK') && !text.startsWith('%PDF')), (text) => {
      const given = bytes(text)
      const found = findEncoding(given, null)
      return found.ok && new TextDecoder(found.encoding, { ignoreBOM: true }).decode(given) === text
    }))
  })
})

describe('columns', () => {
  const fields: Field[] = [
    { id: 4, name: 'books bound', label: 'How many books?', kind: 'number', choices: [] },
    { id: 5, name: 'birthday', label: 'Birthday', kind: 'date', choices: [] },
  ]

  it('have names to tell them apart, and a guess by name or by what stands in them', () => {
    expect(columnNames(['Email', '', 'email', ' '])).toEqual(['Email', 'column 2', 'email (2)', 'column 4'])
    const guess = guessColumns(
      ['E-Mail', 'First Name', 'Books bound', 'birthday', 'phone', 'Tags'],
      [['a@example.com'], ['Ada'], ['3'], ['31/12/1980'], ['1'], ['x']], fields,
    )
    expect(guess.map(({ target }) => target)).toEqual([
      { kind: 'address' }, { kind: 'first-name' }, { kind: 'field', fieldId: 4 }, { kind: 'field', fieldId: 5 }, { kind: 'nothing' },
      { kind: 'tags' },
    ])
    expect(guess[3]!.dateOrder).toBe('day-month-year')
    expect(guessColumns(['who', 'column 2'], [['Ada'], ['ada@example.com', 'bo@example.com']], [])[1]!.target).toEqual({ kind: 'address' })
    // Two columns of the same meaning: the first takes it.
    expect(
      guessColumns(['E-Mail-Adresse', 'Vorname', 'Land', 'Zeitzone', 'Bücher'], [[], [], [], [], []], []).map(({ target }) => target.kind),
    ).toEqual(['address', 'first-name', 'country', 'zone', 'nothing'])
    expect(guessColumns(['email', 'e-mail'], [[], []], []).map(({ target }) => target.kind)).toEqual(['address', 'nothing'])
  })

  it('are parted by the sign that stands outside the quotes', () => {
    expect([guessDelimiter('a,b,c\n1;2;3;4;5'), guessDelimiter('"a,b,c";d\n'), guessDelimiter('a\tb'), guessDelimiter('email')]).toEqual([
      ',', ';', '\t', ',',
    ])
  })
})

const spec = (kinds: ImportColumn['target'][], more: Partial<ImportSpec> = {}): ImportSpec => ({
  columns: kinds.map(target => ({ target, dateOrder: 'day-month-year' })), listIds: [], tagIds: [], source: 'fair', starts: false,
  known: 'keep', consent: { kind: 'none' }, ...more,
})

describe('a row', () => {
  const fields = new Map<number, Field>([
    [1, { id: 1, name: 'since', label: '', kind: 'date', choices: [] }],
    [2, { id: 2, name: 'has a press', label: '', kind: 'yes-no', choices: [] }],
  ])
  const wanted = spec([{ kind: 'address' }, { kind: 'first-name' }, { kind: 'field', fieldId: 1 }, { kind: 'country' }, { kind: 'tags' }])
  const names = ['email', 'name', 'since', 'country', 'tags']
  const read = (...cells: string[]) => readRow(cells, names, wanted, fields)

  it('says everything that is wrong with it at once', () => {
    const bad = read('ada@', 'Ada', '31/02/2020', 'Atlantis', '')
    expect(bad).toMatchObject({ ok: false, address: 'ada@' })
    expect(bad.ok ? '' : bad.problem).toBe(
      'Something is missing after the @. Type it like ada@example.com. since: “31/02/2020” is not a date, read as day, month, year. country: “Atlantis” is not a country; write it like Portugal or PT.',
    )
    expect(read('', 'Ada')).toMatchObject({ problem: 'It has no email address.' })
    expect(read('a@example.com', '', '', '', '', 'more')).toMatchObject({ problem: 'It has 6 cells where the first line has 5.' })
    expect(read('a@example.com', '', '', '', '', '')).toMatchObject({ ok: true })
  })

  it('is read with what a spreadsheet adds taken off', () => {
    expect(read(' Ada.L@Example.COM ', '\'=Ada', '3.4.2021', 'the Netherlands', 'likes: coptic; likes: Coptic, news')).toEqual({
      ok: true, row: {
        address: { shown: 'Ada.L@example.com', key: 'ada.l@example.com' }, firstName: '=Ada', country: 'NL', zone: null,
        fields: [[1, '2021-04-03']], tags: ['likes: coptic', 'news'], lists: [], listsLeft: [], status: null, consentDate: null,
      },
    })
  })

  const row = (more: Partial<Extract<ReturnType<typeof read>, { ok: true }>['row']> = {}) => ({
    address: { shown: 'a@example.com', key: 'a@example.com' }, firstName: 'Ada', country: 'PT', zone: null,
    fields: [] as [number, number][], tags: ['x'], lists: [] as string[], listsLeft: [] as string[], status: null, consentDate: null,
    ...more,
  })
  const known = (more: Partial<KnownPerson> = {}): KnownPerson => ({
    status: 'active', firstName: '', country: null, zone: null, hasConsent: false, fields: new Map(), tags: new Set(), joined: new Set(),
    left: new Set(), joinedNames: new Set(), leftNames: new Set(), ...more,
  })

  it('changes what is not known, keeps or replaces what is, and never takes anything away', () => {
    const terms = { ...wanted, listIds: [7, 8] }
    expect(changeOf(row(), null, terms, ['News'])).toMatchObject({
      outcome: 'new', firstName: 'Ada', tags: ['News', 'x'], listIds: [7, 8], consent: false,
    })
    expect(changeOf(
      row(), known({ firstName: 'Bo', tags: new Set(['x', 'news']), joined: new Set([7]), left: new Set([8]), country: 'PT' }), terms,
      ['News'],
    )).toMatchObject({ outcome: 'unchanged', listIds: [], tags: [] })
    expect(changeOf(row(), known({ firstName: 'Bo' }), { ...terms, known: 'replace' }, [])).toMatchObject({
      outcome: 'updated', firstName: 'Ada',
    })
    expect(changeOf(row({ firstName: null }), known({ firstName: 'Bo' }), { ...terms, known: 'replace' }, [])).toMatchObject({
      firstName: null,
    })
    expect(
      changeOf(row(), known(), { ...terms, consent: { kind: 'given', origin: 'fair', wording: 'yes', date: '2026-01-01' } }, []),
    ).toMatchObject({ consent: true })
  })

  it.each(['unsubscribed', 'bounced', 'complained', 'erased'] as const)('never brings back someone who has %s', (status) => {
    expect(changeOf(row(), known({ status }), { ...wanted, known: 'replace' }, [])).toMatchObject({
      outcome: 'refused', problem: expect.stringContaining('Only they can come back') as string,
    })
  })

  it('keeps everybody’s leaving, and never makes it milder', () => {
    const said = (status: KnownPerson['status'] | null, row_: Status) =>
      changeOf(row({ status: row_ }), status && known({ status }), wanted, [])
    expect(said(null, 'unsubscribed')).toMatchObject({ outcome: 'new', status: 'unsubscribed' })
    expect(said('active', 'bounced')).toMatchObject({ outcome: 'updated', status: 'bounced' })
    expect(said('unsubscribed', 'complained')).toMatchObject({ outcome: 'updated', status: 'complained' })
    expect(said('complained', 'unsubscribed')).toMatchObject({ outcome: 'unchanged', status: null })
    expect(said('unsubscribed', 'active')).toMatchObject({ outcome: 'refused' })
    expect(said('resting', 'active')).toMatchObject({ status: null })
    expect(said('active', 'pending')).toMatchObject({ status: null })
    expect(said('erased', 'unsubscribed')).toMatchObject({ outcome: 'refused' })
    // Someone who has left joins nothing that every row gets, and keeps what they were on.
    expect(changeOf(row({ status: 'unsubscribed', lists: ['Letters'] }), null, { ...wanted, listIds: [7] }, [])).toMatchObject({
      listIds: [], lists: ['Letters'],
    })
    expect(
      changeOf(row({ lists: ['Letters', 'News'], listsLeft: ['News'] }), known({ leftNames: new Set(['letters']) }), wanted, []),
    ).toMatchObject({ lists: [], listsLeft: ['News'] })
  })

  it('is read with how things stand: by a word, or by a date of leaving', () => {
    const standing = (kind: 'status' | 'unsubscribed', cell: string) =>
      readRow(['a@example.com', cell], ['email', 'x'], spec([{ kind: 'address' }, { kind }]), fields)
    expect(['Active', 'opted_out', 'hard bounce', 'spam', 'no', ''].map(cell => standing('status', cell))
      .map(read => read.ok && read.row.status)).toEqual(['active', 'unsubscribed', 'bounced', 'complained', 'unsubscribed', null])
    expect(
      ['2026-05-02 10:00', 'yes', 'no', '0', ''].map(cell => standing('unsubscribed', cell)).map(read => read.ok && read.row.status),
    ).toEqual(['unsubscribed', 'unsubscribed', null, null, null])
    expect(standing('status', 'gold')).toMatchObject({
      ok: false, problem: expect.stringContaining('“gold” is not a status') as string,
    })
    expect(guessColumns(
      ['email', 'Status', 'Unsubscribed at', 'Lists left', 'what', 'press'],
      [['a@example.com'], ['x'], [], [], ['active', 'unsubscribed'], ['yes', 'no']], [],
    ).map(({ target }) => target.kind))
      .toEqual(['address', 'status', 'unsubscribed', 'lists-left', 'nothing', 'nothing'])
    expect(guessColumns(['email', 'what'], [['a@example.com'], ['active', 'bounced']], [])[1]!.target.kind).toBe('status')
    expect([
      seemsToTellWhoLeft('State', ['x']), seemsToTellWhoLeft('opted out', []), seemsToTellWhoLeft('what', ['active', 'spam']),
      seemsToTellWhoLeft('press', ['yes', 'no']), seemsToTellWhoLeft('what', ['active']),
    ]).toEqual([true, true, true, false, false])
  })

  it('changes nothing a second time', () => {
    fc.assert(fc.property(fc.option(fc.string(), { nil: null }), fc.constantFrom(null, 'PT', 'DE'), fc.array(fc.constantFrom(
      'a', 'B', 'b c',
    )), fc.boolean(), fc.constantFrom('keep' as const, 'replace' as const), (firstName, country, tags, isKnown, how) => {
      const terms = { ...wanted, known: how, listIds: [1] }
      const one = row({ firstName, country, tags })
      const first = changeOf(one, isKnown ? known({ firstName: 'Bo', country: 'FR' }) : null, terms, ['t'])
      if (first.outcome === 'refused') return false
      return changeOf(
        one, knownAfter(isKnown ? known({ firstName: 'Bo', country: 'FR' }) : null, first), terms, ['t'],
      ).outcome === 'unchanged'
    }))
  })

  it('is not read before everything needed is said', () => {
    const problems = (given: ImportSpec) => checkImportSpec(given, given.columns.length).map(({ field }) => field)
    expect(problems(spec([{ kind: 'first-name' }]))).toEqual(['columns'])
    expect(problems(spec([{ kind: 'address' }, { kind: 'address' }, { kind: 'zone' }, { kind: 'zone' }]))).toEqual(['columns', 'columns'])
    expect(problems(spec(
      [{ kind: 'address' }, { kind: 'tags' }, { kind: 'tags' }, { kind: 'nothing' }, { kind: 'nothing' }],
      { source: ' ', consent: { kind: 'given', origin: '', wording: '', date: '2026-01-01' } },
    ))).toEqual(['source', 'consent', 'wording'])
  })
})

describe('what goes out as CSV', () => {
  it('A11: comes back the same through a reader of another author, and no cell is a formula', () => {
    const cell = fc.oneof(fc.string({ unit: 'grapheme' }), fc.constantFrom(
      '=1+1', '\t=x', '＝1+1', '\u3000＠SUM(A1)', '\u200B=x', '\uFEFF＋1', '−1+x', '⩵1', '＇=1', '@a', '"', 'a\r\nb', '-5', '-x', '\'=',
      ' '
    ))
    fc.assert(fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
      const back = parse(csvLines(rows), { record_delimiter: '\r\n' })
      expect(back.map(cells => cells.map(undefuse))).toEqual(rows)
      // As a spreadsheet of any width reads it (Unicode compatibility forms, UAX 15).
      return back.flat().every(text => !/^[\s\u200B]*[=+@]/.test(text.normalize('NFKC')))
    }))
  })

  it('holds several names in one cell, whatever letters they have', () => {
    const name = fc.string({ unit: fc.constantFrom('a', 'B', ' ', ',', ';', '"', '=', 'é') }).map(text => text.replace(/\s+/g, ' ').trim())
      .filter(Boolean)
    fc.assert(fc.property(fc.uniqueArray(name, { selector: text => text.toLowerCase() }), (names) => {
      expect(partNames(joinNames(names))).toEqual(names)
    }))
    expect(partNames('likes: coptic; 5" awl, "half open, x')).toEqual(['likes: coptic', '5" awl', '"half open', 'x'])
  })

  it('leaves numbers alone', () => {
    expect([defuse('-12.5'), defuse('+351 900'), defuse('=A1')]).toEqual(['-12.5', '\'+351 900', '\'=A1'])
  })
})
