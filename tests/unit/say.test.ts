import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { diceOf } from '#core/dice'
import { EVENT_KINDS, sayEvent, sayOrigin, type SayableEvent } from '#core/events'
import { missingForStart, newEmail, programOf, type CourseDraft } from '#core/sequence/draft'
import { missingForPublishing, newPage, type PageContent } from '#core/page/content'
import { newSection } from '#core/page/section'
import { everyPage } from '../everyPage'
import { hideMiddle } from '#core/page/render'
import { slugOf } from '#core/message/headers'
import { rateOf } from '#core/stats/rate'
import { ALWAYS } from '#core/time/hours'
import { endDot, sayDay, sayExactly, sayLength, sayMoment, sayWhen, sayZone } from '#core/time/say'
import type { Timing } from '#core/time/when'
import { saySource } from '#core/people/source'
import { sayBasis, sayPeople, sayRate } from '#core/stats/say'

const noon = Date.UTC(2026, 10, 26, 12, 0, 5)

describe('times in words', () => {
  it('name the day, the month and the zone, and never leave day and month to be guessed', () => {
    expect(sayDay(noon, 'Europe/Lisbon')).toBe('Thu 26 Nov')
    expect(sayDay(noon, 'Europe/Lisbon', true)).toBe('Thu 26 Nov 2026')
    expect(sayMoment(noon, 'Asia/Kathmandu')).toBe('Thu 26 Nov, 17:45')
    expect(sayExactly(noon, 'Pacific/Auckland')).toBe('Fri 27 Nov 2026, 01:00:05')
    expect(sayZone('America/Argentina/Buenos_Aires')).toBe('Buenos Aires time')
    expect(sayZone('UTC')).toBe('UTC')
  })

  it.each<[number, string]>([
    [0, 'less than a minute'], [59_999, 'less than a minute'], [60_000, '1 minute'], [48 * 60_000, '48 minutes'], [3_600_000, '1 hour'],
    [5 * 3_600_000 + 33 * 60_000, '5 hours 33 minutes'],
    [24 * 3_600_000, '1 day'], [51 * 3_600_000 + 60_000, '2 days 3 hours'], [400 * 24 * 3_600_000, '400 days'],
  ])('%i ms is %s', (ms, words) => {
    expect(sayLength(ms)).toBe(words)
  })

  it('no two kinds of when are worded alike', () => {
    const whens: Timing[] = [
      { kind: 'at-once' }, { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' },
      { kind: 'elapsed', count: 1, unit: 'days', from: 'joining' }, { kind: 'elapsed', count: 24, unit: 'hours', from: 'previous' },
      { kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }, { kind: 'calendar-day', day: 1, time: '08:00', from: 'previous' },
      { kind: 'calendar-day', day: 0, time: '08:00', from: 'joining' }, { kind: 'calendar-day', day: 2, time: '08:00', from: 'joining' },
      { kind: 'months', count: 1, time: '08:00', from: 'joining' }, { kind: 'months', count: 1, time: '08:00', from: 'previous' }, {
        kind: 'next-time', time: '08:00',
      }, { kind: 'next-weekday', weekday: 1, time: '08:00' }, { kind: 'date', date: '2026-11-26', time: '08:00' },
      ...[0, 12, 3].flatMap(everyMonths =>
        [-7, 0, 1].map((days): Timing => ({ kind: 'date-field', fieldId: 1, days, time: '08:00', everyMonths }))),
    ]
    const words = whens.map(when => sayWhen(when))
    expect(new Set(words).size).toBe(whens.length)
    expect(words[1]).toBe('1 day (24 hours) after the previous step')
    expect(words[4]).toBe('at 08:00, 1 calendar day after the day of joining')
    expect(words[6]).toBe('at 08:00, on the day of joining')
    expect(words.slice(8, 14)).toEqual([
      'at 08:00, 1 calendar month after the day of joining', 'at 08:00, 1 calendar month after the day of the previous step',
      'at the next 08:00 after the previous step', 'on the next Monday at 08:00 after the previous step',
      'on Thu 26 Nov 2026 at 08:00, for everyone', 'at 08:00, 7 days before the date in a field',
    ])
    expect(sayWhen(whens.at(-2)!, () => 'birthday')).toBe('at 08:00, on the date in birthday, every 3 months')
  })
})

describe('events in words', () => {
  const event: Omit<SayableEvent, 'kind'> = {
    pageName: 'PAGE', listName: 'LIST', tagName: 'TAG', courseName: 'COURSE', emailTitle: 'EMAIL', linkLabel: 'LINK', fieldName: 'FIELD',
    segmentName: 'SEGMENT', offerName: 'Long-Stitch Journals', todoText: 'call them', hookName: 'the school', broadcastName: 'BROADCAST',
    taskTitle: 'TASK',
    detail: 'left-list',
  }

  it.each(EVENT_KINDS)('%s is a sentence without its subject', (kind) => {
    const said = sayEvent({ ...event, kind })
    expect(said).toMatch(/^([a-z]|“(PAGE|COURSE|FIELD|BROADCAST)”)/)
    expect(said).not.toMatch(/undefined|null|\.$|-kind/)
  })
  it('says which machine it was', () => {
    expect(sayEvent({ ...event, kind: 'opened', detail: 'reader' })).toBe('opened “EMAIL”')
    expect(sayEvent({ ...event, kind: 'opened', detail: 'prefetch' })).toBe('opened “EMAIL” (fetched in advance by a mail app)')
    expect(sayEvent({ ...event, kind: 'held-back', detail: 'left-list' })).toBe('was not sent “EMAIL”: left the list')
    expect(sayEvent({ ...event, kind: 'way-in-again', detail: 'inside' })).toMatch(/already in it/)
  })
  it.each<[string | null, SayableEvent['kind'] | null, string]>([
    [null, 'opted-in', 'on “PAGE”'], [null, 'imported', 'by the TASK'], ['by-rule', 'got-tag', 'because of the tag “TAG”'],
    ['by-rule', 'lost-tag', 'because they lost the tag “TAG”'],
    ['by-hand', null, 'by hand'], ['by-hand', 'task-begun', 'by hand, as a bulk change'], [
      'merged', 'merged', 'from the record merged into this one',
    ], [null, 'clicked', 'for clicking “LINK” in “EMAIL”'], [null, 'not-clicked', 'because: did not click in “EMAIL” in time'],
    [null, null, ''],
  ])('a mark given %s because of %s is there %s', (detail, because, words) => {
    expect(sayOrigin({ ...event, kind: 'got-tag', detail }, because ? { ...event, kind: because, detail: null } : undefined)).toBe(words)
  })
})

describe('numbers in words', () => {
  // Common practice, no source: 17 sent, 10 opened, 0 clicked is 58.8 % and 0 %.
  it('a rate says what it is a rate of, and how sure it is where it is small', () => {
    expect(sayRate(rateOf(10, 17))).toBe('58.8%')
    expect(sayRate(rateOf(0, 17))).toBe('0%')
    expect(sayRate(rateOf(0, 0))).toBe('–')
    expect(sayBasis(rateOf(10, 17))).toBe('10 of 17; between 36% and 78%')
    expect(sayBasis(rateOf(649, 1191))).toBe('649 of 1,191')
    expect(() => rateOf(3, 2)).toThrow(RangeError)
  })
  it('one is one person', () => {
    expect([sayPeople(0), sayPeople(1), sayPeople(2140)]).toEqual(['0 people', '1 person', '2,140 people'])
    expect([saySource('page:sheet-kit'), saySource('import:spring: fair'), saySource('api')]).toEqual([
      'the page /p/sheet-kit', 'the import “spring: fair”', 'one of your programs',
    ])
  })
})

describe('small things', () => {
  it('somebody else\'s words end in one full stop', () => {
    expect([endDot('550 No.'), endDot('550 No'), endDot('550 No. \n'), endDot(null)]).toEqual(['550 No.', '550 No.', '550 No.', ''])
  })
  it('an address is hidden so that its owner knows it and nobody else does', () => {
    expect([hideMiddle('margarida@example.com'), hideMiddle('al@example.com'), hideMiddle('a@example.com')]).toEqual([
      'mar…@example.com', 'a…@example.com', 'a…@example.com',
    ])
  })
  it('a name becomes an address of small letters, digits and single hyphens', () => {
    expect([slugOf('The Sheet Kit'), slugOf('  Açúcar & pão — 2 '), slugOf('製本'), slugOf('--')]).toEqual([
      'the-sheet-kit', 'acucar-pao-2', 'untitled', 'untitled',
    ])
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (name) => {
      expect(slugOf(name)).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/)
    }))
  })
  it('dice fall evenly, and the same after the same seed', () => {
    const [one, same, other] = [diceOf(7), diceOf(7), diceOf(8)].map(dice => Array.from({ length: 6000 }, dice))
    expect(one).toEqual(same)
    expect(one).not.toEqual(other)
    for (let face = 0; face < 6; face++) expect(one!.filter(value => Math.floor(value * 6) === face).length).toBeGreaterThan(880)
  })
})

describe('what is missing', () => {
  const written = {
    workingTitle: '', preview: [], subject: [{ type: 'text' as const, text: 's' }],
    body: { type: 'doc' as const, content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'b' }] }] },
  }
  const draft = (part: Partial<CourseDraft>): CourseDraft => ({
    listId: 1, wayInTagIds: [], again: 'once', steps: [{ ...newEmail('a', { kind: 'at-once' }), content: written }], ...part,
  })

  it.each<[string, Partial<CourseDraft>, RegExp[]]>([
    ['nothing', {}, []],
    ['a list', { listId: null }, [/list/]],
    ['hours that open', { hours: '0'.repeat(336) }, [/never overlap/]],
    ['emails', { steps: [] }, [/first email/]],
    ['words in the first email', { steps: [newEmail('a', { kind: 'at-once' })] }, [/Write the first email/]],
    ['nothing, if a later email is empty', { steps: [draft({}).steps[0]!, newEmail('b', { kind: 'at-once' })] }, []],
    ['an address behind a button, and words on it', { steps: [{ ...newEmail('a', { kind: 'at-once' }), content: { ...written, body: {
      type: 'doc', content: [...written.body.content, { type: 'button', attrs: { label: ' ', url: 'javascript:alert(1)', tagId: null } }],
    } } }] }, [/https/, /needs a text/]],
  ])('of a course: %s', (_what, part, expected) => {
    const missing = missingForStart(draft(part), ALWAYS).map(({ problem }) => problem)
    expect(missing).toHaveLength(expected.length)
    expected.forEach((pattern, index) => expect(missing[index]).toMatch(pattern))
  })

  it('an email without words is an empty place in the program, where people stand', () => {
    const program = programOf(draft({ steps: [...draft({}).steps, newEmail('b', { kind: 'at-once' })] }), () => 42)
    expect(program.steps.map(step => step.kind === 'email' && step.messageId)).toEqual([42, null])
  })

  it('of a page: each field by its name', () => {
    const missing = (part: Partial<PageContent>) =>
      missingForPublishing({ ...newPage('H'), listIds: [1], ...part }).map(({ field }) => field)
    expect(missing({})).toEqual([])
    expect(missingForPublishing(everyPage('words')).map(({ problem }) => problem)).toEqual([])
    const { form, thanks } = newPage()
    expect(missing({
      sections: newPage(' ').sections, form: { ...form, buttonLabel: '', consentWording: '\n' }, listIds: [],
      thanks: { ...thanks, headline: '' },
    })).toEqual(['s1', 'form', 'form', 'listIds', 'thanks'])
    const every = everyPage('')
    expect(missing({ ...every, listIds: [1] })).toEqual(['s1', 's3', 'form', 'form', 'a1', 'a2', 'a3', 'a3', 'b1', 'thanks', 'thanks'])
    // What is hidden is not missed; two forms, or none, are.
    expect(missing({ sections: [
      ...newPage('H').sections, newSection('picture', 's4'), newSection('form', 's5'),
    ].map(section => ({ ...section, hidden: section.kind === 'picture' })) })).toEqual(['sections'])
    expect(missing({ redirectUrl: 'javascript:alert(1)' })).toEqual(['redirectUrl'])
  })
})
