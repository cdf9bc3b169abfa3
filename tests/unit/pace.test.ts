/** Turns of receiving domains, pauses that grow, and plans of new senders. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { afterDeferral, FRESH, rateOf, takeTurn, type DomainState } from '#core/sending/domainPace'
import { daysFor, mostOn, type WarmUp } from '#core/sending/warmUp'
import { addDays } from '#core/time/zone'

const MINUTE = 60_000
const began = 1_800_000_000_000

describe('turns of a domain', () => {
  it('are never more in any minute than its number, whenever they are asked for', () => {
    fc.assert(fc.property(
      fc.integer({ min: 1, max: 600 }), fc.array(fc.integer({ min: 0, max: 90_000 }), { minLength: 1, maxLength: 200 }),
      (aMinute, gaps) => {
        let state: DomainState = FRESH
        let at = began
        const turns: number[] = []
        for (const gap of gaps) {
          at += gap
          const taken = takeTurn(state, aMinute, at)
          expect(taken.turnAt).toBeGreaterThanOrEqual(at)
          turns.push(taken.turnAt)
          state = taken.state
        }
        for (const from of turns) expect(turns.filter(turn => turn >= from && turn < from + MINUTE).length).toBeLessThanOrEqual(aMinute)
      },
    ))
  })

  it('are its own, or those of every domain, or unlimited', () => {
    const rates = { everyDomain: 100, domains: [{ domain: 'example.com', aMinute: 7 }] }
    expect([rateOf(rates, 'example.com'), rateOf(rates, 'example.net'), rateOf({ ...rates, everyDomain: null }, 'example.net')])
      .toEqual([7, 100, null])
  })
})

describe('a domain that puts us off', () => {
  it('is left alone after one word of too many, or three in a row, and longer each time; what was under way changes nothing', () => {
    expect(afterDeferral(FRESH, true, began)).toMatchObject({ pauses: 1, pauseUntilAt: began + MINUTE })
    let state = FRESH
    const pauses: number[] = []
    for (let at = began; pauses.length < 7; at = state.pauseUntilAt ?? at) {
      state = afterDeferral(state, false, at)
      if (state.pauseUntilAt !== null && state.pauseUntilAt > at) {
        pauses.push((state.pauseUntilAt - at) / MINUTE)
        expect(afterDeferral(state, true, at + 1)).toEqual(state)
      }
    }
    expect([state.deferred, pauses]).toEqual([9, [1, 5, 15, 60, 180, 360, 360]])
  })
})

describe('the plan of a new sender', () => {
  const plan: WarmUp = { startedOn: '2026-03-02', first: 50, growth: 50, until: 500 }
  const days = (...sent: number[]) => sent.map((n, day) => ({ date: addDays(plan.startedOn, day), sent: n }))

  it('grows after days on which at least half left, and stays where less did', () => {
    expect(mostOn(plan, [], '2026-03-02')).toBe(50)
    expect([50, 25, 24].map(sent => mostOn(plan, days(sent), '2026-03-03'))).toEqual([75, 75, 50])
    // A week of nothing is no step, and today itself counts for tomorrow only.
    expect([mostOn(plan, days(50), '2026-03-10'), mostOn(plan, days(50, 75), '2026-03-03')]).toEqual([75, 75])
    // 50, 75, 112, 168, 252, 378, then 567 is more than enough.
    expect(mostOn(plan, days(50, 75, 112, 168, 252), '2026-03-07')).toBe(378)
    expect(mostOn(plan, days(50, 75, 112, 168, 252, 378), '2026-03-08')).toBeNull()
  })

  it('says on which day how many get it, with what has left today already', () => {
    expect(daysFor(plan, days(20), { date: plan.startedOn, sent: 20 }, 200).map(({ date, people }) => [date, people])).toEqual([
      ['2026-03-02', 30], ['2026-03-03', 75], ['2026-03-04', 95],
    ])
  })

  it('gives everybody their day, never more on one than it allows, and comes to an end', () => {
    fc.assert(fc.property(
      fc.integer({ min: 1, max: 300 }), fc.integer({ min: 1, max: 300 }), fc.integer({ min: 2, max: 5000 }),
      fc.integer({ min: 0, max: 20_000 }),
      (first, growth, until, people) => {
        const one = { ...plan, first, growth, until }
        const ahead = daysFor(one, [], { date: plan.startedOn, sent: 0 }, people)
        const sent: { date: string, sent: number }[] = []
        for (const { date, most, people: n } of ahead) {
          expect(most).toBe(mostOn(one, sent, date))
          expect(n).toBeLessThanOrEqual(most ?? Infinity)
          sent.push({ date, sent: n })
        }
        expect(ahead.length === 90 || ahead.reduce((sum, day) => sum + day.people, 0) === people).toBe(true)
      },
    ))
  })
})
