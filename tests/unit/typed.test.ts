import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { readDate, readTime } from '#core/time/read'

describe('B6: a time that is typed', () => {
  it.each([
    ['09:30', '09:30'], ['9:30', '09:30'], [' 9.30 ', '09:30'], ['0930', '09:30'], ['930', '09:30'], ['9', '09:00'], [
      '21h15', '21:15',
    ], ['9h', '09:00'], ['9:30 pm', '21:30'], ['12 am', '00:00'], ['12:05 p.m.', '12:05'], ['00:00', '00:00'], ['23:59', '23:59'],
  ])('%s is read', (typed, time) => expect(readTime(typed)).toBe(time))

  it.each([
    '', 'soon', '24:00', '9:60', '25', '13 pm', '0 am', '9:3', '09:30:00', '-1', '9 30', '99:99', '９:30',
  ])('%j is not', typed => expect(readTime(typed)).toBeNull())

  it('comes back as it was written, whatever it is', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 1439 }), (minutes) => {
      const time = `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
      expect([time, time.replace(':', ''), time.replace(':', '.')].map(readTime)).toEqual([time, time, time])
    }))
  })
})

describe('B6: a date that is typed', () => {
  it.each([
    ['2026-11-26', '2026-11-26'], ['26 Nov 2026', '2026-11-26'], ['Thu 26 Nov 2026', '2026-11-26'], [
      'thursday, 26 november 2026', '2026-11-26',
    ], ['26 Nov', '2027-11-26'], ['Nov 26, 2026', '2026-11-26'], ['26.11.2026', '2026-11-26'], ['26/11/26', '2026-11-26'],
    ['3/4/2026', '2026-04-03'], [
      '1st May 2026', '2026-05-01',
    ], ['29 Feb 2028', '2028-02-29'], ['26-11', '2027-11-26'], ['2026/1/5', '2026-01-05'],
  ])('%s is read', (typed, date) => expect(readDate(typed, '2027-02-01')).toBe(date))

  it.each([
    '', 'soon', '31 Nov 2026', '29 Feb 2026', '2026-13-01', '26 Foo 2026', '32/1/2026', '1/13/2026', '20261126', '26', 'Nov',
    '0 Jan 2026',
  ])('%j is not', typed => expect(readDate(typed, '2027-02-01')).toBeNull())
})
