/** What a broadcast says of itself: when it comes to whom, when they usually read, and what its numbers mean. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { usualHour } from '#core/broadcast/usualHour'
import { cannotSay, verdictOf, type Outcome } from '#core/broadcast/verdict'
import { isNewcomer } from '#core/sending/audience'
import { AT_ONCE, beginsAt, shareOf, timeOfReader } from '#core/sending/timing'
import { rateOf } from '#core/stats/rate'
import { DAY, HOUR, localOf } from '#core/time/zone'

const noon = Date.UTC(2026, 10, 26, 12)
const ZONES = ['Europe/Lisbon', 'Pacific/Auckland', 'America/Los_Angeles', 'Asia/Kathmandu', 'Pacific/Kiritimati']

describe('when it comes to a reader', () => {
  it('is that time of their own clock, or as it begins, and never before', () => {
    const anyShare = fc.double({ min: 0, max: 0.999, noNaN: true })
    fc.assert(fc.property(fc.constantFrom(...ZONES), fc.nat(400), fc.nat(23), anyShare, (zone, days, hour, share) => {
      const { date } = localOf(noon + days * DAY, 'UTC')
      const time = `${String(hour).padStart(2, '0')}:00`
      const began = beginsAt({ date, time }, ZONES)
      const at = timeOfReader({ clock: { date, time }, spreadMs: 0 }, began, zone, share)
      expect(at).toBeGreaterThanOrEqual(began)
      // An hour that a changed clock leaves out comes an hour later.
      if (at > began) expect([time, `${String(hour + 1).padStart(2, '0')}:00`]).toContain(localOf(at, zone).time)
      expect(timeOfReader({ ...AT_ONCE, spreadMs: 8 * HOUR }, began, zone, share) - began).toBeLessThan(8 * HOUR)
    }))
  })

  it('is spread evenly, differently for each send, and the same each time', () => {
    const shares = Array.from({ length: 10_000 }, (_, n) => shareOf(7, n + 1))
    const quarters = [0, 1, 2, 3].map(q => shares.filter(share => Math.floor(share * 4) === q).length)
    for (const n of quarters) expect(Math.abs(n - 2500)).toBeLessThan(200)
    expect(shares).toEqual(Array.from({ length: 10_000 }, (_, n) => shareOf(7, n + 1)))
    expect(shares.filter((share, n) => share === shareOf(8, n + 1)).length).toBeLessThan(10)
  })

  // Common practice, no source.
  it('is not for newcomers: exactly seven days are still new, a millisecond later no more', () => {
    expect([7 * DAY - 1, 7 * DAY, 7 * DAY + 1].map(ago => isNewcomer(noon - ago, noon, 7))).toEqual([true, true, false])
    expect(isNewcomer(noon, noon, null)).toBe(false)
  })
})

describe('when they usually read', () => {
  it('says which hour, of how many, and which hours cannot be told from it', () => {
    const opens = Array<number>(24).fill(10)
    opens[8] = 300
    opens[19] = 290
    expect(usualHour(opens)).toMatchObject({ hour: 8, share: { part: 300, whole: 810 }, alike: [19] })
    opens[19] = 100
    expect(usualHour(opens)!.alike).toEqual([])
    expect(usualHour(Array<number>(24).fill(2))).toBeNull()
  })
})

describe('what its numbers say', () => {
  // Common practice, no source: 17 sent, 10 opened, 0 clicked is 58.8 % and 0 %.
  const now: Outcome = {
    sent: 17, opened: rateOf(10, 17), clicked: rateOf(0, 17), uncertain: 2, bought: 0, left: 1, hasLinks: true, isWatched: true,
  }
  const past = Array.from({ length: 3 }, () => ({ clicked: rateOf(100, 1000), opened: rateOf(400, 1000) }))
  it('begins with the answer, and is careful with few', () => {
    expect(verdictOf(now, [])).toEqual([
      '0 of 17 clicked: 0%, between 0% and 18%.', '1 person unsubscribed by it.',
      'It went to 17 people: with so few, look at the range, not at the rate.',
    ])
    expect(verdictOf({ ...now, sent: 1000, clicked: rateOf(200, 1000) }, past)[0])
      .toBe('200 of 1,000 clicked: 20%. That is more than 10% in your last 3 broadcasts.')
    expect(verdictOf({ ...now, sent: 1000, clicked: rateOf(105, 1000) }, past)[0]).toMatch(/not clearly different from 10%/)
    expect(verdictOf({ ...now, hasLinks: false, isWatched: true }, [])[0]).toBe('10 of 17 opened it: 58.8%, between 36% and 78%.')
    expect(verdictOf({ ...now, hasLinks: false, isWatched: false }, [])[0]).toMatch(/is not known/)
    expect(verdictOf({ ...now, sent: 0 }, past)).toHaveLength(1)
  })
  it('says what nobody can know', () => {
    expect(cannotSay({ uncertain: 2, isWatched: true })[0]).toMatch(/^2 people may have read it/)
    expect(cannotSay({ uncertain: 0, isWatched: false })[0]).toBe('It was not watched for opens.')
  })
})
