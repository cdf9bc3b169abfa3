import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_LIMITS, RANKS, quotaVerdict, type Limits } from '#core/sending/quota'
import { addDays, localOf } from '#core/time/zone'

const DAY = 86_400_000
const HOUR = 3_600_000
const noon = Date.UTC(2026, 10, 26, 12)
const zone = 'Europe/Lisbon'
const none = { sentAt: [], planned: [] }
const limits = (more: Partial<Limits>): Limits => ({ ...NO_LIMITS, ...more })

describe('how many emails one person gets', () => {
  it('is not limited where nothing is said, and a gap only moves the sending', () => {
    expect(quotaVerdict(NO_LIMITS, 'course', noon, zone, { sentAt: [noon, noon, noon], planned: [] })).toEqual({ kind: 'goes' })
    expect(
      quotaVerdict(limits({ gapMinutes: 90 }), 'course', noon, zone, { sentAt: [noon - 30 * 60_000, noon - DAY], planned: [] }),
    ).toEqual({ kind: 'waits', until: noon + 60 * 60_000, why: 'gap' })
    // Exactly so far apart is far enough.
    expect(quotaVerdict(limits({ gapMinutes: 30 }), 'course', noon, zone, { sentAt: [noon - 30 * 60_000], planned: [] })).toEqual({
      kind: 'goes',
    })
  })

  it('a day is one of the calendar of the reader; what is too many goes at the same clock time of the first day with room', () => {
    const two = limits({ aDay: 2 })
    expect(quotaVerdict(two, 'course', noon, zone, { sentAt: [noon - HOUR, noon - 13 * HOUR], planned: [] })).toEqual({ kind: 'goes' })
    expect(quotaVerdict(two, 'course', noon, zone, { sentAt: [noon - HOUR, noon - 11 * HOUR], planned: [] })).toEqual({
      kind: 'waits', until: noon + DAY, why: 'too-many-emails',
    })
    // In Auckland it is one in the morning of the next day already.
    expect(quotaVerdict(two, 'course', noon, 'Pacific/Auckland', { sentAt: [noon - 2 * HOUR, noon - 11 * HOUR], planned: [] })).toEqual({
      kind: 'goes',
    })
    expect(
      quotaVerdict({ ...two, tooMany: 'drop' }, 'course', noon, zone, { sentAt: [noon - HOUR, noon - 2 * HOUR], planned: [] }),
    ).toEqual({ kind: 'drops' })
  })

  it('a week is any seven days: it goes on the day on which the oldest falls out of them', () => {
    expect(quotaVerdict(limits({ aWeek: 2 }), 'course', noon, zone, { sentAt: [noon - 5 * DAY, noon - 2 * DAY], planned: [] })).toEqual({
      kind: 'waits', until: noon + 2 * DAY, why: 'too-many-emails',
    })
  })

  it('across a change of the clocks the same clock time is meant', () => {
    const before = Date.UTC(2026, 9, 24, 7) // 08:00 of summer time
    expect(quotaVerdict(limits({ aDay: 1 }), 'course', before, zone, { sentAt: [before - HOUR], planned: [] })).toEqual({
      kind: 'waits', until: Date.UTC(2026, 9, 25, 8), why: 'too-many-emails',
    })
  })

  it('yields to what stands before it in the written order, and only for that day', () => {
    const one = limits({ aDay: 1 })
    expect(RANKS).toEqual(['bought', 'course', 'rule', 'broadcast'])
    expect(
      quotaVerdict(one, 'course', noon, zone, { sentAt: [], planned: [{ at: noon + 3 * HOUR, rank: 'bought', isBefore: false }] }).kind,
    ).toBe('waits')
    for (const [rank, planned] of [['course', 'course'], ['course', 'rule'], ['bought', 'course']] as const) expect(
      quotaVerdict(one, rank, noon, zone, { sentAt: [], planned: [{ at: noon, rank: planned, isBefore: false }] }),
    ).toEqual({ kind: 'goes' })
    expect(
      quotaVerdict(one, 'course', noon, zone, { sentAt: [], planned: [{ at: noon + DAY, rank: 'bought', isBefore: false }] }),
    ).toEqual({ kind: 'goes' })
    // The next day is taken, too.
    expect(
      quotaVerdict(one, 'rule', noon, zone, { sentAt: [noon], planned: [{ at: noon + DAY, rank: 'bought', isBefore: false }] }),
    ).toMatchObject({ until: noon + 2 * DAY })
  })

  it('never lets more through than it says, whatever comes when', () => {
    const anyLimits = fc.record({
      gapMinutes: fc.constantFrom(0, 45, 600), aDay: fc.option(fc.integer({ min: 1, max: 3 })),
      aWeek: fc.option(fc.integer({ min: 3, max: 5 })), tooMany: fc.constant('wait' as const),
    })
    fc.assert(fc.property(anyLimits, fc.array(fc.integer({ min: 0, max: 12 * 24 * 60 }), {
      minLength: 1, maxLength: 25,
    }), (anyLimit, minutes) => {
      const sentAt: number[] = []
      // Each is asked for again whenever it was told to wait, the earliest first, as an outbox does.
      const waiting = minutes.map(minute => noon + minute * 60_000)
      for (let n = 0; waiting.length > 0; n++) {
        if (n > 2000) throw new Error('one of them waits for ever')
        const at = Math.min(...waiting)
        waiting.splice(waiting.indexOf(at), 1)
        const verdict = quotaVerdict(anyLimit, 'course', at, zone, { sentAt, planned: [] })
        if (verdict.kind === 'goes') sentAt.push(at)
        else if (verdict.kind === 'waits') {
          if (verdict.until <= at) throw new Error('it would wait for what is past')
          waiting.push(verdict.until)
        }
      }
      const sorted = [...sentAt].sort((a, b) => a - b)
      for (const [n, at] of sorted.entries()) if (n > 0 && at - sorted[n - 1]! < anyLimit.gapMinutes * 60_000) throw new Error('too close')
      const days = sorted.map(at => localOf(at, zone).date)
      for (const day of new Set(days)) {
        if (anyLimit.aDay !== null) expect(days.filter(one => one === day).length).toBeLessThanOrEqual(anyLimit.aDay)
        const week = [0, 1, 2, 3, 4, 5, 6].map(n => addDays(day, n))
        if (anyLimit.aWeek !== null) expect(days.filter(one => week.includes(one)).length).toBeLessThanOrEqual(anyLimit.aWeek)
      }
      expect(sentAt.length).toBe(minutes.length)
    }), { numRuns: 300 })
    expect(quotaVerdict(NO_LIMITS, 'rule', noon, zone, none)).toEqual({ kind: 'goes' })
  })
})
