/**
 * Calendar months, days of the week and dates that return, against a second
 * library: the polyfill of Temporal (https://tc39.es/proposal-temporal/), whose
 * months are added with overflow *constrain* and whose local times are read as
 * *compatible*, which is RFC 5545 section 3.3.5.
 *
 * Who enters on which day of the week gets Monday's letter when: common
 * practice, no source.
 */
import { Temporal } from '@js-temporal/polyfill'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { targetOf, type Timing } from '#core/time/when'
import { addDays, addMonthsTo, instantOf, localOf } from '#core/time/zone'

const zones = ['Europe/Lisbon', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Pacific/Chatham', 'UTC']
const anyDate = fc.tuple(fc.integer({ min: 1970, max: 2060 }), fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 31 }))
  .map(([year, month, day]) => Temporal.PlainDate.from({ year, month, day }, { overflow: 'constrain' }))
const anyTime = fc.tuple(fc.nat(23), fc.nat(59)).map(([hour, minute]) => Temporal.PlainTime.from({ hour, minute }))
const instant = (date: Temporal.PlainDate, time: Temporal.PlainTime, zone: string) =>
  date.toZonedDateTime({ timeZone: zone, plainTime: time }).epochMilliseconds
const wall = (time: Temporal.PlainTime) => time.toString({ smallestUnit: 'minute' })
const none = () => null

describe('calendar months', () => {
  it('are added as Temporal adds them, month ends and leap days included', () => {
    fc.assert(fc.property(anyDate, fc.integer({ min: -60, max: 600 }), (date, months) => {
      expect(addMonthsTo(date.toString(), months)).toBe(date.add({ months }).toString())
    }), { numRuns: 2000 })
  })

  it('the 31st plus one is the last day of the month, and back from there is not the 31st again', () => {
    expect(['2026-01-31', '2028-01-31', '2026-03-31', '2026-12-31'].map(date => addMonthsTo(date, 1))).toEqual([
      '2026-02-28', '2028-02-29', '2026-04-30', '2027-01-31',
    ])
  })

  it('give the instant that Temporal gives, from the day on the wall of the zone', () => {
    fc.assert(fc.property(anyDate, anyTime, anyTime, fc.integer({
      min: 1, max: 120,
    }), fc.constantFrom(...zones), (date, joined, time, count, zone) => {
      const joinedAt = instant(date, joined, zone)
      const day = Temporal.Instant.fromEpochMilliseconds(joinedAt).toZonedDateTimeISO(zone).toPlainDate()
      expect(targetOf({ kind: 'months', count, time: wall(time), from: 'joining' }, { joinedAt, previousAt: joinedAt }, zone, none)).toBe(
        instant(day.add({ months: count }), time, zone),
      )
    }), { numRuns: 400 })
  })
})

describe('a date that returns', () => {
  /** The first of the date and its returns, moved by days, whose moment is not before `from`: one after the other. */
  function slowly(
    date: Temporal.PlainDate, days: number, everyMonths: number, time: Temporal.PlainTime, from: number, zone: string,
  ): number {
    for (let n = 0; ; n++) {
      const at = instant(date.add({ months: n * everyMonths }).add({ days }), time, zone)
      if (at >= from) return at
    }
  }

  it('is the one Temporal finds by trying each return, counted from the date itself', () => {
    fc.assert(fc.property(anyDate, fc.integer({ min: -40, max: 40 }), fc.constantFrom(
      1, 3, 5, 12,
    ), anyTime, anyDate, fc.constantFrom(...zones), (date, days, everyMonths, time, standing, zone) => {
      const previousAt = instant(standing, Temporal.PlainTime.from('10:00'), zone)
      const when: Timing = { kind: 'date-field', fieldId: 1, days, time: wall(time), everyMonths }
      expect(targetOf(when, { joinedAt: previousAt, previousAt }, zone, () => date.toString())).toBe(
        slowly(date, days, everyMonths, time, previousAt, zone),
      )
    }), { numRuns: 400 })
  })

  it('born on 29 February: 28 February in common years; every month from the 31st: its last day; once: also where it is past', () => {
    const zone = 'Europe/Lisbon'
    const on = (date: string, everyMonths: number, from: string, days = 0) => {
      const previousAt = instantOf(from, '12:00', zone)
      return localOf(targetOf(
        { kind: 'date-field', fieldId: 1, days, time: '08:00', everyMonths }, { joinedAt: previousAt, previousAt }, zone, () => date,
      )!, zone).date
    }
    expect([
      on('1988-02-29', 12, '2026-11-26'), on('1988-02-29', 12, '2028-01-01'), on('2026-01-31', 1, '2026-02-01'),
      on('2026-01-31', 3, '2026-02-01'), on('2020-05-05', 0, '2026-11-26'), on('2027-03-01', 12, '2026-11-26', -1),
    ])
      .toEqual(['2027-02-28', '2028-02-29', '2026-02-28', '2026-04-30', '2020-05-05', '2027-02-28'])
  })

  it('that is not known means no instant', () => {
    expect(
      targetOf({ kind: 'date-field', fieldId: 1, days: 0, time: '08:00', everyMonths: 0 }, { joinedAt: 0, previousAt: 0 }, 'UTC', none),
    ).toBeNull()
  })
})

describe('the next Monday at 08:00', () => {
  it('for people who join on each day of the last week of the year', () => {
    const monday: Timing = { kind: 'next-weekday', weekday: 1, time: '08:00' }
    const joins = ['2026-12-28', '2026-12-29', '2026-12-30', '2026-12-31', '2027-01-01', '2027-01-02', '2027-01-03']
    const on = (date: string, time: string) => {
      const at = instantOf(date, time, 'Europe/Lisbon')
      return localOf(targetOf(monday, { joinedAt: at, previousAt: at }, 'Europe/Lisbon', none)!, 'Europe/Lisbon').date
    }
    expect(joins.map(date => on(date, '12:00'))).toEqual(Array(7).fill('2027-01-04'))
    // Before eight on a Monday it is the same day; at eight it is strictly later.
    expect([on('2026-12-28', '07:59'), on('2026-12-28', '08:00')]).toEqual(['2026-12-28', '2027-01-04'])
  })

  it('and the next 08:00 are the first that Temporal finds strictly later, whatever the zone', () => {
    fc.assert(fc.property(anyDate, anyTime, anyTime, fc.integer({
      min: 1, max: 7,
    }), fc.constantFrom(...zones), (date, standing, time, weekday, zone) => {
      const previousAt = instant(date, standing, zone)
      const first = (ok: (day: Temporal.PlainDate) => boolean) => {
        for (let day = date.subtract({ days: 1 }); ; day = day.add({
          days: 1,
        })) if (ok(day) && instant(day, time, zone) > previousAt) return instant(day, time, zone)
      }
      const at = { joinedAt: previousAt, previousAt }
      expect(
        targetOf({ kind: 'next-weekday', weekday: weekday as 1, time: wall(time) }, at, zone, none),
      ).toBe(first(day => day.dayOfWeek === weekday))
      expect(targetOf({ kind: 'next-time', time: wall(time) }, at, zone, none)).toBe(first(() => true))
    }), { numRuns: 400 })
    expect(addDays('2026-12-31', 1)).toBe('2027-01-01')
  })
})
