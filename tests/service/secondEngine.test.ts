/**
 * Whole lives in the real thing, against the slow second engine: people pause,
 * rest, are let stand still and moved by hand, leave and take it back, get the
 * tag a hold waits for, within sending hours and caps, by the practice clock in
 * any moves and by a live engine that sleeps whenever it likes.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { DraftStep } from '#core/sequence/draft'
import { ALWAYS, daily, type WeekHours } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { emailsOfPerson } from '#data/outbox'
import { leave } from '#usecases/arrive/leave'
import { takeBack } from '#usecases/arrive/takeBack'
import { goOnAgain, movePerson, standStill } from '#usecases/courses/people'
import { changeStatus } from '#usecases/inner/facts/marks'
import { beginPause, endPause } from '#usecases/inner/facts/pauses'
import { transact } from '#usecases/inner/reactor/transaction'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveSendingHours } from '#usecases/settings/hours'
import { saveSendingLimits } from '#usecases/settings/limits'
import { play } from '#usecases/time/play'
import { slowly, type SlowEmail, type SlowLife, type SlowStep, type PaymentFact } from './slowEngine'
import { SOAK, sized } from '../soak'
import { DAY, email, furnish, HOUR, listeningCarrier, moveTo, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const MINUTE = 60_000
const LISBON = 'Europe/Lisbon'
const UNTIL = thursdayNoon + 60 * DAY
const OFFICE = daily([1, 2, 3, 4, 5], '08:00', '18:00')

/* Courses, thrown */

const anyWhen = fc.oneof<fc.Arbitrary<Timing>[]>(
  fc.constant<Timing>({ kind: 'at-once' }),
  fc.integer({ min: 1, max: 70 }).map((count): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })),
  fc.integer({ min: 1, max: 200 }).map((count): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'joining' })),
  fc.tuple(fc.nat(6), fc.constantFrom('07:00', '12:00', '20:00'), fc.constantFrom('previous' as const, 'joining' as const))
    .map(([day, time, from]): Timing => ({ kind: 'calendar-day', day, time, from })),
  fc.constantFrom('2026-11-29', '2026-12-03', '2026-12-20').map((date): Timing => ({ kind: 'date', date, time: '10:00' })),
)
const anyEmail = fc.record({
  kind: fc.constant('email' as const), when: anyWhen, ifPast: fc.constantFrom('at-once' as const, 'skip' as const),
})
const anyHold = fc.record({
  kind: fc.constant('hold' as const), when: anyWhen, until: fc.constantFrom('event' as const, 'condition' as const),
  hours: fc.integer({ min: 1, max: 120 }),
  did: fc.array(anyEmail, { maxLength: 2 }), didNot: fc.array(anyEmail, { maxLength: 2 }),
})
const anyCourse = fc.tuple(fc.boolean(), fc.array(fc.oneof(anyEmail, anyEmail, anyHold), { minLength: 1, maxLength: 5 }))
  .map(([welcome, rest]): SlowStep[] => {
  let count = 0
  const named = (one: Omit<SlowEmail, 'id'>): SlowEmail => ({ ...one, id: `s${count++}` })
  const first: SlowEmail = {
    kind: 'email', id: 'first', when: welcome ? { kind: 'at-once' } : { kind: 'calendar-day', day: 0, time: '08:00', from: 'joining' },
    ifPast: 'at-once',
  }
  return [first, ...rest.map((one): SlowStep =>
    one.kind === 'email' ? named(one) : { ...one, id: `h${count++}`, did: one.did.map(named), didNot: one.didNot.map(named) })]
})

const draftOf = (steps: SlowStep[], tagId: number): DraftStep[] => steps.map((one): DraftStep => one.kind === 'email'
  ? step(one.id, one.when, email(one.id), { ifPast: one.ifPast })
  : {
      id: one.id, kind: 'hold', when: one.when, ifPast: 'at-once', zone: 'workspace', atMost: { count: one.hours, unit: 'hours' },
      until: one.until === 'event'
        ? { kind: 'event', when: { kind: 'got-tag', thingId: tagId } }
        : { kind: 'condition', who: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] } },
      did: draftOf(one.did, tagId), didNot: draftOf(one.didNot, tagId),
    })

/* Lives, thrown: no two things at one minute, since their order would be nobody's to say */

type Stander = 'pauses' | 'rests' | 'stands'
interface Life {
  joinsAfter: number, stills: { who: Stander, from: number, to: number }[], tagged: number | null, moved: { at: number, to: number } | null,
  leaves: { from: number, to: number } | null,
}
const hour = (n: number, minute: number) => n * HOUR + minute * MINUTE + 13_000
const span = (who: Stander, minute: number, most = 400) => fc.option(
  fc.tuple(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: most })), { nil: null, freq: 2 },
)
  .map(one => one && { who, from: hour(one[0], minute), to: hour(one[0] + one[1], minute + 4) })
const anyLife = fc.record({
  joinsAfter: fc.integer({ min: 1, max: 60 }).map(n => n * HOUR),
  stills: fc.tuple(span('pauses', 7), span('rests', 19), span('stands', 32)).map(all => all.filter(one => one !== null)),
  tagged: fc.option(fc.integer({ min: 1, max: 400 }).map(n => hour(n, 41)), { nil: null }),
  moved: fc.option(fc.record({ at: fc.integer({ min: 1, max: 400 }).map(n => hour(n, 48)), to: fc.nat(5) }), { nil: null, freq: 2 }),
  leaves: fc.option(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 22 }))
    .map(([n, long]) => ({ from: hour(n, 53), to: hour(n + long, 57) })), { nil: null }),
}).map((life): Life => {
  const within = (at: number, { from, to }: { from: number, to: number }) => at > from && at < to
  const busy = [life.tagged, life.moved?.at ?? null, ...life.stills.flatMap(({ from, to }) => [from, to])]
  // What is done while they are gone is not done to the journey they take back.
  return life.leaves && busy.some(at => at !== null && within(at, life.leaves!)) ? { ...life, leaves: null } : life
})

interface Act { at: number, does(): void }

/** What happens to one person, in order of time. */
function acts(context: Workshop, tagId: number, steps: SlowStep[], life: Life, personOf: () => number): Act[] {
  const inside = () => openEnrolmentsOfPerson(context.db, personOf())[0]?.id
  const anEmail = () => emailsOfPerson(context.db, personOf())[0]?.id
  /** The way out is in an email: who has none cannot leave by it. */
  let left = false
  const goes = () => {
    left = anEmail() !== undefined
    if (left) leave(context, anEmail()!, { what: 'everything' })
  }
  const begins: Record<Stander, () => void> = {
    pauses: () => transact(context, () => beginPause(context.db, personOf(), { at: context.clock.now(), untilAt: UNTIL + DAY })),
    rests: () => transact(context, () =>
      changeStatus(context.db, personOf(), 'put-to-rest', { at: context.clock.now(), causeId: null, ownAct: false })),
    stands: () => inside() && standStill(context, inside()!),
  }
  const ends: Record<Stander, () => void> = {
    pauses: () => transact(context, () => endPause(context.db, personOf(), context.clock.now(), null)),
    rests: () =>
      transact(context, () => changeStatus(context.db, personOf(), 'woken', { at: context.clock.now(), causeId: null, ownAct: false })),
    stands: () => inside() && goOnAgain(context, inside()!),
  }
  const target = life.moved && steps[life.moved.to % steps.length]!
  return [
    ...life.stills.flatMap(({ who, from, to }) => [{ at: from, does: begins[who] }, { at: to, does: ends[who] }]),
    ...life.tagged === null ? [] : [{ at: life.tagged, does: () => giveTagByHand(context, personOf(), tagId) }],
    ...life.moved ? [{ at: life.moved.at, does: () => inside() && movePerson(context, inside()!, target!.id) }] : [],
    ...life.leaves ? [{ at: life.leaves.from, does: goes }, { at: life.leaves.to, does: () => left && takeBack(context, anEmail()!) }] : [],
  ].map(({ at, does }) => ({ at: thursdayNoon + life.joinsAfter + at, does })).sort((a, b) => a.at - b.at)
}

/** What became of somebody's journey: emails by their planned time, and ways taken. */
function paymentFactsOf({ db }: Workshop, personId: number): string[] {
  const emails = db.prepare(`SELECT planned_at AS at, 'send ' || item_id AS what FROM outbox WHERE kind = 'course' AND person_id = ?`)
    .all(personId) as PaymentFact[]
  const ways = db.prepare(`SELECT at, step_id || ' ' || detail AS what FROM events WHERE kind = 'took-way' AND person_id = ?`)
    .all(personId) as PaymentFact[]
  return inOrder([...emails, ...ways].filter(({ at }) => at <= UNTIL))
}
const inOrder = (told: PaymentFact[]) => told.map(({ at, what }) => `${new Date(at).toISOString()} ${what}`).sort()

const expected = (steps: SlowStep[], life: Life, hours: WeekHours, aDay: number | null = null) => {
  const from = thursdayNoon + life.joinsAfter
  const slow: SlowLife = {
    joinedAt: from, stills: life.stills.map(one => [from + one.from, from + one.to]),
    taggedAt: life.tagged === null ? null : from + life.tagged,
    moved: life.moved && { at: from + life.moved.at, toId: steps[life.moved.to % steps.length]!.id },
  }
  return inOrder(slowly(steps, slow, { zone: LISBON, hours, aDay, until: UNTIL }))
}
const anyHours = fc.constantFrom<WeekHours>(ALWAYS, OFFICE)
/** A seed with which much happens; soaking draws another. */
const THROWN = { ...!SOAK && { seed: 16 }, numRuns: sized(12, 200) }

describe('against the slow second engine', () => {
  it('the practice clock, in any moves, tells the same dated story of everybody', async () => {
    let [withHolds, withStills] = [0, 0]
    await fc.assert(fc.asyncProperty(anyCourse, anyLife, anyHours, fc.array(fc.integer({ min: 1, max: 200 }), {
      maxLength: 6,
    }), async (steps, life, hours, moves) => {
      const context = openContext()
      const { interestId } = await furnish(context, ({ interestId }) => draftOf(steps, interestId))
      saveSendingHours(context, hours)
      await moveTo(context, thursdayNoon + life.joinsAfter)
      const personId = visit(context, 'a@example.com', 'A')
      for (const { at, does } of acts(context, interestId, steps, life, () => personId)) {
        for (const move of moves) if (context.clock.now() + move * HOUR < at) await moveTo(context, context.clock.now() + move * HOUR)
        await moveTo(context, at)
        does()
      }
      await moveTo(context, UNTIL)
      const told = paymentFactsOf(context, personId)
      context.db.close()
      expect(told).toEqual(expected(steps, life, hours))
      if (told.some(line => line.endsWith('did'))) withHolds++
      if (life.stills.length > 0) withStills++
    }), THROWN)
    expect([withHolds > 0, withStills > 3]).toEqual([true, true])
  })

  it('and so does a live engine that sleeps whenever it likes, for several people at once', async () => {
    await fc.assert(fc.asyncProperty(anyCourse, fc.array(anyLife, {
      minLength: 2, maxLength: 4,
    }), anyHours, fc.array(fc.integer({ min: 1, max: 300 }), { minLength: 1, maxLength: 8 }), async (steps, lives, hours, sleeps) => {
      const clock = { at: thursdayNoon }
      const context = openContext({ mode: 'live', clock, carrier: listeningCarrier() })
      const { interestId } = await furnish(context, ({ interestId }) => draftOf(steps, interestId))
      saveSendingHours(context, hours)
      const people: number[] = []
      const all: Act[] = lives.flatMap((life, n) => [
        { at: thursdayNoon + life.joinsAfter, does: () => people[n] = visit(context, `p${n}@example.com`) },
        ...acts(context, interestId, steps, life, () => people[n]!),
      ])
      let at = thursdayNoon
      for (let n = 0; at < UNTIL; n++) all.push({
        at: at += sleeps[n % sleeps.length]! * HOUR + 29_000, does: () => play(context, clock.at) as never,
      })
      for (const act of all.sort((a, b) => a.at - b.at)) {
        clock.at = act.at
        await act.does()
      }
      clock.at = UNTIL + HOUR
      await play(context, clock.at)
      const told = people.map(id => paymentFactsOf(context, id))
      context.db.close()
      expect(told).toEqual(lives.map(life => expected(steps, life, hours)))
    }), THROWN)
  })

  it('with so many emails a day, all that counts from one that was moved moves with it', async () => {
    let putOff = 0
    await fc.assert(fc.asyncProperty(anyCourse, anyLife, anyHours, fc.integer({
      min: 1, max: 2,
    }), async (steps, { joinsAfter, tagged }, hours, aDay) => {
      const life: Life = { joinsAfter, tagged, stills: [], moved: null, leaves: null }
      const context = openContext()
      const { interestId } = await furnish(context, ({ interestId }) => draftOf(steps, interestId))
      saveSendingHours(context, hours)
      saveSendingLimits(context, { gapMinutes: 0, aDay, aWeek: null, tooMany: 'wait' })
      await moveTo(context, thursdayNoon + joinsAfter)
      const personId = visit(context, 'a@example.com')
      for (const { at, does } of acts(context, interestId, steps, life, () => personId)) {
        await moveTo(context, at)
        does()
      }
      await moveTo(context, UNTIL)
      const told = paymentFactsOf(context, personId)
      putOff += (context.db.prepare(`SELECT count(*) AS n FROM events WHERE kind = 'put-off'`).get() as { n: number }).n
      context.db.close()
      expect(told).toEqual(expected(steps, life, hours, aDay))
    }), THROWN)
    expect(putOff).toBeGreaterThan(0)
  })
})
