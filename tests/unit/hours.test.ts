import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { advance } from '#core/sequence/advance'
import type { Facts } from '#core/sequence/journey'
import { datesFor } from '#core/sequence/dates'
import type { EmailStep, Program } from '#core/sequence/program'
import { ALWAYS, both, daily, isOpen, isWeekHours, nextOpen, SLOTS } from '#core/time/hours'
import { sayHours } from '#core/time/say'
import { DAY, HOUR, instantOf, localOf, MINUTE } from '#core/time/zone'

const zones = ['Europe/Lisbon', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'America/St_Johns', 'Pacific/Apia', 'UTC']
/** Instants shortly before clocks are changed somewhere, and any others. */
const CHANGES = [
  Date.UTC(2026, 2, 29, 1), Date.UTC(2026, 9, 25, 1), Date.UTC(2026, 2, 8, 7), Date.UTC(2026, 10, 1, 6), Date.UTC(2026, 3, 4, 15),
  Date.UTC(2026, 9, 3, 15, 30), Date.UTC(2011, 11, 30, 10),
]
const anyInstant = fc.oneof(
  fc.tuple(fc.constantFrom(...CHANGES), fc.integer({ min: -8 * DAY, max: HOUR })).map(([at, before]) => at + before),
  fc.integer({ min: Date.UTC(2015, 0, 1), max: Date.UTC(2035, 0, 1) }),
)
const anyHours = fc.oneof(
  fc.array(fc.nat(SLOTS - 1), { minLength: 1, maxLength: 6 })
    .map(open => Array.from({ length: SLOTS }, (_, n) => open.includes(n) ? '1' : '0').join('')),
  fc.tuple(fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }), fc.nat(22))
    .map(([days, hour]) => daily(days, `${String(hour).padStart(2, '0')}:30`, '24:00')),
)

/** The obvious way: minute by minute, asking the wall clock. */
function slowly(at: number, hours: string, zone: string): number {
  const open = (when: number) => {
    const { date, time } = localOf(when, zone)
    const weekday = (new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7
    return hours[weekday * 48 + Number(time.slice(0, 2)) * 2 + (time.slice(3) >= '30' ? 1 : 0)] === '1'
  }
  if (open(at)) return at
  let minute = Math.ceil((at + 1) / MINUTE) * MINUTE
  while (!open(minute)) minute += MINUTE
  return minute
}

describe('the next opening', () => {
  it('is what walking minute by minute finds, in odd zones and where clocks are changed', () => {
    fc.assert(fc.property(anyInstant, anyHours, fc.constantFrom(...zones), (at, hours, zone) => {
      expect(nextOpen(at, hours, zone)).toBe(slowly(at, hours, zone))
    }), { numRuns: 250 })
  })

  it('is now while it is open, a moment later at the edge, and never before', () => {
    const office = daily([1, 2, 3, 4, 5], '08:00', '18:00')
    const friday = (time: string) => instantOf('2026-11-27', time, 'Europe/Lisbon')
    expect([nextOpen(friday('08:00'), office, 'Europe/Lisbon'), nextOpen(friday('17:59'), office, 'Europe/Lisbon')]).toEqual([
      friday('08:00'), friday('17:59'),
    ])
    expect([friday('07:59'), friday('18:00')].map(at => localOf(nextOpen(at, office, 'Europe/Lisbon'), 'Europe/Lisbon'))).toEqual([
      { date: '2026-11-27', time: '08:00' }, { date: '2026-11-30', time: '08:00' },
    ])
    expect(() => nextOpen(0, '0'.repeat(SLOTS), 'UTC')).toThrow('never open')
  })

  it('an hour that comes twice is open twice; one that is skipped lets nobody out early', () => {
    const [night, lisbon] = [daily([7], '01:00', '01:30'), 'Europe/Lisbon']
    // 25 October 2026: 01:59 summer time is followed by 01:00.
    const first = Date.UTC(2026, 9, 25, 0, 45)
    expect(nextOpen(first, night, lisbon)).toBe(Date.UTC(2026, 9, 25, 1, 0))
    // 29 March 2026: 00:59 is followed by 02:00.
    expect(localOf(nextOpen(Date.UTC(2026, 2, 29, 0, 45), daily([7], '01:00', '02:30'), lisbon), lisbon)).toEqual({
      date: '2026-03-29', time: '02:00',
    })
  })

  it('hours are 336 half-hours of which one is open at least; two sets are open where both are', () => {
    expect([ALWAYS, '0'.repeat(336), '1'.repeat(335), `${'0'.repeat(335)}2`].map(isWeekHours)).toEqual([true, false, false, false])
    fc.assert(fc.property(anyHours, anyHours, anyInstant, fc.constantFrom(...zones), (a, b, at, zone) => {
      expect(isOpen(at, both(a, b), zone)).toBe(isOpen(at, a, zone) && isOpen(at, b, zone))
    }))
  })

  it('reads in words, days alike together', () => {
    expect([
      ALWAYS, daily([1, 2, 3, 4, 5], '08:00', '18:00'),
      both(daily([1, 2, 6], '09:30', '24:00'), daily([1, 2, 3, 4, 5, 6, 7], '00:00', '12:00')), '0'.repeat(SLOTS),
    ].map(sayHours))
      .toEqual(['at any time', 'Mon to Fri 08:00–18:00', 'Mon to Tue 09:30–12:00, Sat 09:30–12:00', 'never'])
    expect(sayHours(`11${'0'.repeat(44)}11${ALWAYS.slice(48, 96)}${'0'.repeat(240)}`)).toBe('Mon 00:00–01:00 and 23:00–24:00, Tue all day')
  })
})

const office = daily([1, 2, 3, 4, 5], '08:00', '18:00')
const facts: Facts = {
  workspaceZone: 'Europe/Lisbon', personZone: null, hours: office, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
  awaited: () => ({ kind: 'open' }),
}
const email = (id: string, more: Partial<EmailStep> = {}): EmailStep => ({
  id, kind: 'email', when: { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, ifPast: 'at-once', zone: 'workspace',
  messageId: 1, ...more,
})
const said = (at: number | null) => at === null ? null : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const dates = (program: Program, at: number) => datesFor(program, at, facts).map(({ plannedAt }) => said(plannedAt))

describe('sending hours in a course', () => {
  const fridayNight = instantOf('2026-11-27', '20:00', 'Europe/Lisbon')

  it('an email that falls outside waits for the next opening, and takes the one after it along', () => {
    expect(dates({ steps: [email('a', { when: { kind: 'at-once' } }), email('b'), email('c')] }, fridayNight)).toEqual([
      '2026-11-27 20:00', '2026-11-30 08:00', '2026-12-01 08:00',
    ])
  })

  it('what their own act asked for comes at once; brought in by others they wait', () => {
    const program: Program = { steps: [email('a', { when: { kind: 'at-once' } })] }
    const due = (ownAct: boolean) => advance(program, null, { kind: 'joined', at: fridayNight, ownAct }, facts).enrolment.dueAt
    expect([said(due(true)), said(due(false))]).toEqual(['2026-11-27 20:00', '2026-11-30 08:00'])
  })

  it('a course narrows them, an email can ignore them, and a course that would never send sends in the workspace’s', () => {
    const tuesdays = daily([2], '10:00', '11:00')
    expect(dates({
      hours: tuesdays,
      steps: [email('a', { when: { kind: 'at-once' }, ignoresHours: true }), email('b'), email('c', { ignoresHours: true }), email('d')],
    }, fridayNight))
      .toEqual(['2026-11-27 20:00', '2026-12-01 10:00', '2026-12-02 10:00', '2026-12-08 10:00'])
    expect(dates({ hours: daily([7], '10:00', '11:00'), steps: [email('a')] }, fridayNight)).toEqual(['2026-11-30 08:00'])
  })

  it('past is judged before them: what is past goes at once, and still waits for the opening', () => {
    const program = (ifPast: 'at-once' | 'skip'): Program => ({ steps: [
      email('a', { when: { kind: 'at-once' }, ignoresHours: true }),
      email('b', { when: { kind: 'date', date: '2026-11-20', time: '09:00' }, ifPast }), email('c'),
    ] })
    expect(dates(program('at-once'), fridayNight)).toEqual(['2026-11-27 20:00', '2026-11-30 08:00', '2026-12-01 08:00'])
    expect(dates(program('skip'), fridayNight)).toEqual(['2026-11-27 20:00', null, '2026-11-30 08:00'])
  })

  it('whatever the program, no email is planned outside them but what was asked for or ignores them', () => {
    const when = fc.oneof(fc.record({
      kind: fc.constant('elapsed' as const), count: fc.integer({ min: 1, max: 50 }),
      unit: fc.constantFrom('hours' as const, 'days' as const), from: fc.constantFrom('previous' as const, 'joining' as const),
    }), fc.record({
      kind: fc.constant('next-weekday' as const), weekday: fc.constantFrom(1 as const, 6 as const, 7 as const),
      time: fc.constantFrom('03:00', '12:00'),
    }))
    fc.assert(fc.property(anyInstant, anyHours, fc.array(fc.tuple(
      when, fc.boolean(),
    ), { minLength: 2, maxLength: 6 }), fc.constantFrom(...zones), (at, hours, steps, zone) => {
      const program: Program = { hours, steps: steps.map(([one, ignoresHours], n) => email(`s${n}`, { when: one, ignoresHours })) }
      for (const [n, { plannedAt, targetAt }] of datesFor(program, at, { ...facts, hours: ALWAYS, workspaceZone: zone }).entries()) {
        if (steps[n]![1]) continue
        expect(isOpen(plannedAt!, hours, zone)).toBe(true)
        expect(plannedAt!).toBeGreaterThanOrEqual(targetAt!)
      }
    }), { numRuns: 150 })
  })
})
