/**
 * What waiting means, as people who run courses expect it.
 * Common practice, no source.
 */
import { describe, expect, it } from 'vitest'
import { datesFor } from '#core/sequence/dates'
import type { EmailStep } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { localOf } from '#core/time/zone'

const lisbon = { workspaceZone: 'Europe/Lisbon', personZone: null, hours: ALWAYS, dateOf: () => null }
const elapsedDays = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'days', from: 'previous' })
const program = (whens: Timing[]) => ({
  steps: whens.map((when, index): EmailStep => ({
    id: `s${index}`, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', messageId: 1,
  })),
})
const joinThursdayNoon = Date.UTC(2026, 10, 26, 12)
const daysAfter = (whens: Timing[]) =>
  datesFor(program(whens), joinThursdayNoon, lisbon).map(date => (date.plannedAt! - joinThursdayNoon) / 86_400_000)

describe('waits add up', () => {
  it('at once, next day, next day, in 3 days, in 5 days are days 0, 1, 2, 5, 10', () => {
    expect(daysAfter([{ kind: 'at-once' }, elapsedDays(1), elapsedDays(1), elapsedDays(3), elapsedDays(5)])).toEqual([0, 1, 2, 5, 10])
  })

  it('at once, then waits of 1 and 2 days are days 0, 1, 3', () => {
    expect(daysAfter([{ kind: 'at-once' }, elapsedDays(1), elapsedDays(2)])).toEqual([0, 1, 3])
  })
})

describe('someone who opts in on Thursday at noon', () => {
  it.each<[Timing, string]>([
    [{ kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }, '2026-11-27 08:00'],
    [{ kind: 'elapsed', count: 1, unit: 'days', from: 'joining' }, '2026-11-27 12:00'],
    [{ kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' }, '2026-11-29 08:00'],
  ])('gets %j at %s', (when, expected) => {
    const [date] = datesFor(program([when]), joinThursdayNoon, lisbon)
    const { date: day, time } = localOf(date!.plannedAt!, 'Europe/Lisbon')
    expect(`${day} ${time}`).toBe(expected)
  })
})

describe('an email at Monday 07:00 followed by one at 06:00 on the next calendar day', () => {
  it('is Tuesday 06:00, never Monday', () => {
    const dates = datesFor(program([
      { kind: 'calendar-day', day: 0, time: '07:00', from: 'joining' },
      { kind: 'calendar-day', day: 1, time: '06:00', from: 'previous' },
    ]), Date.UTC(2026, 10, 30, 5), lisbon)
    expect(localOf(dates[1]!.plannedAt!, 'Europe/Lisbon')).toEqual({ date: '2026-12-01', time: '06:00' })
  })
})

describe('people in several zones', () => {
  it('each get it at 08:00 on their own wall', () => {
    const steps = program([{ kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }]).steps.map(step => ({
      ...step, zone: 'subscriber' as const,
    }))
    for (const zone of ['America/Sao_Paulo', 'Asia/Kathmandu', 'Pacific/Auckland']) {
      const [date] = datesFor({ steps }, joinThursdayNoon, { ...lisbon, personZone: zone })
      expect(localOf(date!.plannedAt!, zone).time).toBe('08:00')
    }
  })
})
