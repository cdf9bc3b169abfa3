/** Several emails at once, and copies a day later: the dates people would get them at. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { datesFor } from '#core/sequence/dates'
import { newEmail, programOf, type DraftEmail } from '#core/sequence/draft'
import { aDayLater } from '#core/sequence/nextDay'
import { emailsOfOutline, emptyOutline, MOST_OUTLINED, readOutline } from '#core/sequence/outline'
import { plainLine } from '#core/message/content'
import type { Timing } from '#core/time/when'
import { ALWAYS } from '#core/time/hours'
import { dayNumber, localOf } from '#core/time/zone'

const zone = 'Europe/Lisbon'
/** Thursday 26 November 2026, 23:10 in Lisbon. */
const late = Date.UTC(2026, 10, 26, 23, 10)
let made = 0
const newId = () => `s${++made}`

/** `1 Fri 08:00`: days after joining, and the time. */
function daysOf(steps: DraftEmail[], joinedAt = late) {
  const program = programOf({ listId: null, wayInTagIds: [], again: 'once', steps }, () => 0)
  const facts = { workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => '2026-12-10' }
  return datesFor(program, joinedAt, facts).map(({ plannedAt }) => {
    const { date, time } = localOf(plannedAt!, zone)
    return `${dayNumber(date) - dayNumber(localOf(joinedAt, zone).date)} ${time}`
  })
}

describe('an outline', () => {
  it('is read a subject a line, without bullets, numbers and empty lines; a line can say its day', () => {
    expect(readOutline(
      '\n- Your sheet kit\r\n2) Fold once, then trust it\n\n  Day 3: Which book first?\n## Day 5 – The last hour\n3 ways to sew\n'))
      .toEqual([
        { subject: 'Your sheet kit', day: null }, { subject: 'Fold once, then trust it', day: null },
        { subject: 'Which book first?', day: 3 }, { subject: 'The last hour', day: 5 }, { subject: '3 ways to sew', day: null },
      ])
    expect(readOutline('  \n\t\n')).toEqual([])
    expect(readOutline('Day after day')).toEqual([{ subject: 'Day after day', day: null }])
  })

  it('begins at once, and then goes one a day at its time, however late somebody joins', () => {
    const emails = emailsOfOutline({ lines: emptyOutline(4), everyDays: 1, time: '08:00' }, true, newId)
    expect(daysOf(emails)).toEqual(['0 23:10', '1 08:00', '2 08:00', '3 08:00'])
    expect(emails.every(({ content }) => plainLine(content.subject) === '')).toBe(true)
  })

  it('goes by the days its lines name, whether the first is called day 0 or day 1', () => {
    for (const first of [0, 1]) {
      const lines = readOutline(`Day ${first}: one\nDay ${first + 2}: two\nthree\nDay ${first + 9}: four`)
      expect(daysOf(emailsOfOutline({ lines, everyDays: 3, time: '18:30' }, true, newId)))
        .toEqual(['0 23:10', '2 18:30', '5 18:30', '9 18:30'])
    }
  })

  it('counts its first email as day 0 where only a later line names its day, as the dates of a course are counted', () => {
    expect(daysOf(emailsOfOutline({ lines: readOutline('one\ntwo\nDay 5: three\nfour'), everyDays: 1, time: '08:00' }, true, newId)))
      .toEqual(['0 23:10', '1 08:00', '5 08:00', '6 08:00'])
  })

  it('never goes backwards, never twice a day, and is never longer than so many, whatever is pasted', () => {
    const line = fc.tuple(fc.option(fc.nat(12), { nil: null }), fc.constantFrom('a', 'b')).map(([day, subject]) => ({ subject, day }))
    fc.assert(fc.property(fc.array(line, { minLength: 1, maxLength: 80 }), fc.integer({ min: 1, max: 9 }), (lines, everyDays) => {
      const days = daysOf(emailsOfOutline({ lines, everyDays, time: '08:00' }, true, newId)).map(said => Number(said.split(' ')[0]))
      expect(days.length).toBe(Math.min(lines.length, MOST_OUTLINED))
      expect(days.every((day, n) => n === 0 || day > days[n - 1]!)).toBe(true)
    }))
    fc.assert(fc.property(fc.string(), (text) => {
      expect(readOutline(text).every(({ subject }) => subject.trim() === subject && subject !== '' && !/[\r\n]/.test(subject))).toBe(true)
    }))
  })
})

describe('the copy of an email', () => {
  it('goes a day after the one it was copied from, whatever that goes by', () => {
    const kinds: Timing[] = [
      { kind: 'at-once' }, { kind: 'elapsed', count: 5, unit: 'hours', from: 'previous' },
      { kind: 'elapsed', count: 3, unit: 'days', from: 'joining' }, { kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' },
      { kind: 'calendar-day', day: 2, time: '08:00', from: 'previous' }, { kind: 'months', count: 1, time: '07:30', from: 'joining' },
      { kind: 'next-time', time: '08:00' }, { kind: 'next-weekday', weekday: 3, time: '19:00' },
      { kind: 'date', date: '2026-12-31', time: '10:00' }, { kind: 'date-field', fieldId: 1, days: -2, time: '09:00', everyMonths: 0 },
    ]
    for (const when of kinds) {
      const [first, copy] = daysOf([newEmail(newId(), { kind: 'at-once' }), newEmail(newId(), when), newEmail(newId(), aDayLater(when))])
        .slice(1)
      const [day, time] = first!.split(' ')
      expect(copy, when.kind).toBe(`${Number(day) + 1} ${time}`)
    }
  })
})
