import { describe, expect, it } from 'vitest'
import type { Condition, Leaf } from '#core/audience/condition'
import { EMAIL_FATES } from '#core/audience/condition'
import type { Names } from '#core/audience/say'
import { sayCondition, sayLeaf } from '#core/audience/say'
import { allCountries, readCountry } from '#core/people/country'
import { readDate, readField, readNumber } from '#core/people/field'

const names: Names = {
  zone: 'Europe/Lisbon', lists: new Map([[1, 'LIST']]), tags: new Map([[1, 'TAG'], [2, 'OTHER']]), pages: new Map([[1, 'PAGE']]),
  results: () => 'RESULT', brought: ({ word }) => word, touches: new Map([
    [1, 'TOUCH'],
  ]), segments: new Map([[1, 'SEGMENT']]), links: new Map([[1, 'LINK']]), rules: new Map([[1, 'RULE']]), offers: new Map([[1, 'OFFER']]),
  broadcasts: new Map([[1, 'BROADCAST']]),
  fields: new Map([[1, { name: 'FIELD', kind: 'text' as const }]]),
  courses: new Map([[1, { name: 'COURSE', steps: new Map([['one', 'EMAIL']]) }]]),
}
const noNames: Names = {
  zone: 'UTC', lists: new Map(), tags: new Map(), pages: new Map(), results: () => undefined, brought: () => '', touches: new Map(),
  segments: new Map(), links: new Map(), rules: new Map(), offers: new Map(), broadcasts: new Map(), fields: new Map(),
  courses: new Map(),
}
const tag = (tagId: number): Leaf => ({ kind: 'tag', tagId, since: null })
const at = Date.UTC(2026, 10, 26)

describe('a condition read aloud', () => {
  it.each<[Condition, string]>([
    [{
      kind: 'email', fate: 'sent', which: { kind: 'broadcast', ownerId: 1, itemId: null }, within: null, times: 1, url: null,
    }, 'who were sent “BROADCAST”'],
    [{ kind: 'email', fate: 'maybe-opened', which: { kind: 'again', ownerId: 1, itemId: null }, within: null, times: 1, url: null },
      'who may have opened a second sending of “BROADCAST”'],
    [{ kind: 'all', of: [] }, ''],
    [{ kind: 'opted-in', pageId: 1, within: null, touchId: 1 }, 'who opted in on “PAGE” (source: TOUCH)'],
    [{ kind: 'brought', by: 'first', source: { kind: 'utm', word: 'LETTER' } }, 'who first came from LETTER'],
    [{ kind: 'brought', by: 'latest', source: { kind: 'utm', word: 'LETTER' } }, 'who most recently came from LETTER'],
    [{ kind: 'opted-in', pageId: 1, within: null, resultId: 'r1' }, 'who opted in on “PAGE” (result: “RESULT”)'],
    [{ kind: 'opted-in', pageId: 1, within: null, resultId: 'none' }, 'who opted in on “PAGE” (result: no result page)'],
    [tag(1), 'tagged “TAG”'],
    // What is shared is said once; what people did, and what is theirs, follows.
    [{ kind: 'all', of: [
      { kind: 'field', fieldId: 1, test: { is: 'known' } }, { kind: 'last-read', by: 'reader', within: { kind: 'last-days', days: 30 } },
      { kind: 'any', of: [tag(1), tag(2)] }, { kind: 'purchase', fate: 'bought', offerId: null, within: null, times: 1 },
    ] }, 'tagged “TAG” or “OTHER” who opened or clicked in the last 30 days and bought something and whose “FIELD” is known'],
    [{ kind: 'all', of: [tag(1), tag(2), { kind: 'list', listId: 1, is: 'joined' }] }, 'tagged “TAG” and “OTHER” and on the list “LIST”'],
    [{ kind: 'none', of: [tag(1)] }, 'who are not people tagged “TAG”'],
    [{ kind: 'any', of: [tag(1), { kind: 'none', of: [tag(2)] }] }, 'tagged “TAG” or who are not people tagged “OTHER”'],
    [{ kind: 'any', of: [
      { kind: 'all', of: [tag(1), { kind: 'waits', offerId: 1 }] }, { kind: 'list', listId: 1, is: 'left' },
    ] }, 'who left the list “LIST” or (tagged “TAG” and on the waiting list of “OFFER”)'],
    [{ kind: 'all', of: [
      { kind: 'all', of: [tag(1), { kind: 'any', of: [tag(2), { kind: 'list', listId: 1, is: 'left' }] }] },
      { kind: 'none', of: [{ kind: 'status', is: ['bounced', 'complained'] }] },
    ] }, 'tagged “TAG” and (tagged “OTHER” or who left the list “LIST”), but never people who are bounced or complained'],
    [{ kind: 'all', of: [{ kind: 'any', of: [tag(1), tag(2)] }, { kind: 'none', of: [] }] }, 'tagged “TAG” or “OTHER”'],
    [{ kind: 'any', of: [] }, 'who do not exist'],
    [{
      kind: 'email', fate: 'opened', which: { kind: 'course', ownerId: 1, itemId: 'one' }, within: { kind: 'last-days', days: 7 }, times: 1,
      url: null,
    }, 'who opened “EMAIL” of “COURSE” in the last 7 days'],
    [{
      kind: 'email', fate: 'clicked', which: null, within: null, times: 3, url: 'https://example.com/a',
    }, 'who clicked in at least 3 emails (the link https://example.com/a)'],
    [{ kind: 'arrived', when: { kind: 'before', at } }, 'who were added before Thu 26 Nov 2026'],
    [{ kind: 'country', is: ['PT', 'GB'], unknown: true }, 'from Portugal, United Kingdom or an unknown country'],
    [{
      kind: 'rule-acted', ruleId: 1, within: { kind: 'last-days', days: 30 },
    }, 'who were affected by the house rule “RULE” in the last 30 days'],
    [{ kind: 'field', fieldId: 1, test: { is: 'next-days', days: 7 } }, 'whose “FIELD” is today or in the 7 days after'],
  ])('%j is: people %s', (condition, said) => {
    expect(sayCondition(condition, names)).toBe(said)
  })

  it('says what is gone, and never a hole', () => {
    const leaves: Leaf[] = [
      tag(9), { kind: 'list', listId: 9, is: 'joined' }, { kind: 'segment', segmentId: 9 }, { kind: 'opted-in', pageId: 9, within: null },
      { kind: 'course', courseId: 9, is: 'inside', stepId: 'x' }, { kind: 'field', fieldId: 9, test: { is: 'known' } },
      ...EMAIL_FATES.flatMap((fate): Leaf[] => [
        null, { kind: 'course' as const, ownerId: 9, itemId: null }, { kind: 'course' as const, ownerId: 9, itemId: 'x' },
      ].flatMap(which => [1, 2].map((times): Leaf => ({ kind: 'email', fate, which, within: null, times, url: null })))),
      { kind: 'may-be-mailed' }, { kind: 'consent', is: 'missing' }, { kind: 'zone', is: [] }, { kind: 'status', is: [] },
      { kind: 'sample', hundredths: 250, salt: 1 }, { kind: 'last-read', by: 'uncertain', within: { kind: 'since', at } },
    ]
    for (const leaf of leaves) expect(sayLeaf(leaf, noNames)).toMatch(/^(?!.*(undefined|null|\s\s)).{8,}$/)
  })
})

describe('what is typed for a field', () => {
  it.each([
    ['12', 12], ['-3', -3], ['1,5', 1.5], ['1.5', 1.5], ['1,234', 1234], ['1.234,5', 1234.5], ['1,234.5', 1234.5], ['1 234 567', 1234567],
    ['1\u202f234,50', 1234.5], ['1.234.567', 1234567], ['0,25', 0.25],
    ['', null], ['many', null], ['1.2.3', null], ['1,2,3', null], ['12 books', null], ['1,23,456.7', null], ['.', null], ['--1', null],
  ])('as a number, “%s” is %s', (typed, number) => {
    expect(readNumber(typed)).toBe(number)
  })

  it.each([
    ['2026-11-24', 'year-month-day', '2026-11-24'], ['2026-1-4', 'day-month-year', '2026-01-04'], [
      '24/11/2026', 'day-month-year', '2026-11-24',
    ], ['11/24/2026', 'month-day-year', '2026-11-24'], ['1.2.1969', 'day-month-year', '1969-02-01'],
    ['2026-11-24T10:00:00Z', 'year-month-day', '2026-11-24'], ['29/02/2024', 'day-month-year', '2024-02-29'],
    ['31/02/2026', 'day-month-year', null], ['29/02/2026', 'day-month-year', null], ['11/24/2026', 'day-month-year', null],
    ['24/11/26', 'day-month-year', null], ['tomorrow', 'year-month-day', null], ['2026-13-01', 'year-month-day', null],
  ] as const)('as a date, “%s” read %s is %s', (typed, order, date) => {
    expect(readDate(typed, order)).toBe(date)
  })

  it('as a country is its code or any of its names, with or without accents', () => {
    for (const { code, name } of allCountries()) {
      expect([readCountry(code.toLowerCase()), readCountry(` ${name.toUpperCase()} `)]).toEqual([code, code])
    }
    expect(['UK', 'The Netherlands', 'USA', 'Scotland', 'Cote d’Ivoire', 'Middle-earth', ''].map(readCountry)).toEqual([
      'GB', 'NL', 'US', 'GB', 'CI', null, null,
    ])
    expect(
      ['Deutschland', 'ÖSTERREICH', 'España', 'Países Baixos', 'Suisse', 'Ελλάδα', '日本', 'Česko', 'Mittelerde', '??'].map(readCountry),
    ).toEqual(['DE', 'AT', 'ES', 'NL', 'CH', 'GR', 'JP', 'CZ', null, null])
  })

  it('is refused with what would be right', () => {
    expect(readField({ kind: 'yes-no', choices: [] }, 'perhaps')).toEqual({ ok: false, problem: 'This is yes or no, not “perhaps”.' })
    expect(readField({ kind: 'choice', choices: ['a', 'b'] }, 'c')).toMatchObject({ problem: expect.stringContaining('a, b') })
    expect(readField({ kind: 'zone', choices: [] }, 'Lisbon')).toMatchObject({ problem: expect.stringContaining('Europe/Lisbon') })
    expect(readField({ kind: 'text', choices: [] }, 'x'.repeat(1001))).toMatchObject({ ok: false })
  })
})
