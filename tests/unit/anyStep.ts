/** Steps of every *when*, moments and zones, thrown. */
import fc from 'fast-check'
import type { Weekday, Timing } from '#core/time/when'

const zones = ['Europe/Lisbon', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Pacific/Apia', 'Asia/Beirut', 'UTC']
export const anyZone = fc.constantFrom(...zones)
export const anyInstant = fc.integer({ min: Date.UTC(2011, 0, 1), max: Date.UTC(2035, 0, 1) })
export const anyTime = fc.tuple(fc.nat(23), fc.nat(59)).map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`)
const anyFrom = fc.constantFrom('previous' as const, 'joining' as const)
const anyWhen: fc.Arbitrary<Timing> = fc.oneof(
  fc.constant<Timing>({ kind: 'at-once' }),
  fc.record({
    kind: fc.constant('elapsed' as const), count: fc.integer({ min: 1, max: 40 }),
    unit: fc.constantFrom('minutes' as const, 'hours' as const, 'days' as const, 'weeks' as const), from: anyFrom,
  }),
  fc.record({ kind: fc.constant('calendar-day' as const), day: fc.nat(40), time: anyTime, from: anyFrom }),
  fc.record({ kind: fc.constant('months' as const), count: fc.integer({ min: 1, max: 5 }), time: anyTime, from: anyFrom }),
  fc.record({ kind: fc.constant('next-time' as const), time: anyTime }),
  fc.record({
    kind: fc.constant('next-weekday' as const), weekday: fc.integer({ min: 1, max: 7 }).map(day => day as Weekday), time: anyTime,
  }),
  fc.record({ kind: fc.constant('date' as const), date: fc.constantFrom('2012-02-29', '2026-11-26', '2034-01-01'), time: anyTime }),
)
export const anyStep = fc.record({
  when: anyWhen, ifPast: fc.constantFrom('at-once' as const, 'skip' as const),
  zone: fc.constantFrom('workspace' as const, 'subscriber' as const),
})
