/**
 * Local times that do not exist or exist twice.
 *
 * Source: RFC 5545 section 3.3.5 (form 3): "If the local time described does
 * not occur (when changing from standard to daylight time), the DATE-TIME value
 * is interpreted using the UTC offset before the gap in local times. Thus,
 * TZID=America/New_York:20070311T023000 indicates March 11, 2007 at 3:30 A.M.
 * EDT (UTC-04:00)" and, for the doubled hour, "refers to the first occurrence":
 * TZID=America/New_York:20071104T013000 is 1:30 A.M. EDT (UTC-04:00).
 *
 * The other zones' dates of change: IANA time zone database, as Node carries it.
 */
import { describe, expect, it } from 'vitest'
import { datesFor } from '#core/sequence/dates'
import { ALWAYS } from '#core/time/hours'
import { dayNumber, instantOf, localOf } from '#core/time/zone'

const cases: [what: string, date: string, time: string, zone: string, utc: string][] = [
  ['the gap of RFC 5545', '2007-03-11', '02:30', 'America/New_York', '2007-03-11T07:30:00Z'],
  ['the overlap of RFC 5545: the first', '2007-11-04', '01:30', 'America/New_York', '2007-11-04T05:30:00Z'],
  ['RFC 5545 form 3, an ordinary time', '1997-07-14', '13:30', 'America/New_York', '1997-07-14T17:30:00Z'],
  ['Lisbon, gap at 01:00 in March', '2027-03-28', '01:30', 'Europe/Lisbon', '2027-03-28T01:30:00Z'],
  ['Lisbon, overlap at 01:00 in October', '2027-10-31', '01:30', 'Europe/Lisbon', '2027-10-31T00:30:00Z'],
  ['half-hour offset (Kolkata, +05:30)', '2026-11-24', '08:00', 'Asia/Kolkata', '2026-11-24T02:30:00Z'],
  ['45 minute offset (Kathmandu, +05:45)', '2026-11-24', '08:00', 'Asia/Kathmandu', '2026-11-24T02:15:00Z'],
  ['45 minutes and summer time (Chatham, +13:45)', '2026-11-24', '08:00', 'Pacific/Chatham', '2026-11-23T18:15:00Z'],
  ['a change of half an hour (Lord Howe): gap 02:00 to 02:30', '2026-10-04', '02:15', 'Australia/Lord_Howe', '2026-10-03T15:45:00Z'],
  ['a change at midnight (Beirut): 00:00 does not exist', '2022-03-27', '00:00', 'Asia/Beirut', '2022-03-26T22:00:00Z'],
  ['a whole day that does not exist (Apia skipped 30 December 2011)', '2011-12-30', '12:00', 'Pacific/Apia', '2011-12-30T22:00:00Z'],
  ['the far side of the date line (Kiritimati, +14)', '2026-11-24', '08:00', 'Pacific/Kiritimati', '2026-11-23T18:00:00Z'],
]

describe('an email of a course at such a time', () => {
  it.each(cases)('%s', (_what, date, time, zone, utc) => {
    // Somebody who joined the day before, and has their own zone.
    const joinedAt = new Date(utc).getTime() - 26 * 3_600_000
    const wanted = dayNumber(date) - dayNumber(localOf(joinedAt, zone).date)
    const steps = [{
      id: 'a', kind: 'email' as const, messageId: 1, when: { kind: 'calendar-day' as const, day: wanted, time, from: 'joining' as const },
      ifPast: 'skip' as const, zone: 'subscriber' as const,
    }]
    const [planned] = datesFor({ steps }, joinedAt, { workspaceZone: 'UTC', personZone: zone, hours: ALWAYS, dateOf: () => null })
    expect(new Date(planned!.plannedAt!).toISOString()).toBe(new Date(utc).toISOString())
  })
})

describe('local times become instants as RFC 5545 section 3.3.5 says', () => {
  it.each(cases)('%s', (_what, date, time, zone, utc) => {
    expect(new Date(instantOf(date, time, zone)).toISOString()).toBe(new Date(utc).toISOString())
  })

  it('reads a wall clock as another implementation (Intl) does', () => {
    for (const zone of ['Europe/Lisbon', 'Asia/Kathmandu', 'Pacific/Chatham', 'America/St_Johns']) {
      for (let at = Date.UTC(2026, 9, 1); at < Date.UTC(2026, 11, 1); at += 7 * 3_600_000 + 61_000) {
        const shown = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' }).format(at)
        const { date, time } = localOf(at, zone)
        expect(`${date} ${time}`).toBe(shown)
      }
    }
  })
})
