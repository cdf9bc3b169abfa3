/**
 * Everything that decides when an email goes, at once: several courses, one of
 * them of dates, sending hours, a smallest gap, so many a day and a week, zones
 * of people, and the workspace's own zone changed midway, over the days on
 * which clocks are set. However the time passes, nothing comes twice, nothing
 * is lost and no limit is broken.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Carrier } from '#core/ports'
import type { CourseDraft } from '#core/sequence/draft'
import { daily, isOpen } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { dayNumber, localOf, type ZoneName } from '#core/time/zone'
import { wholeStory } from '#data/events'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { correctPerson } from '#usecases/know/byHand'
import { saveField } from '#usecases/know/fields'
import { saveSendingHours } from '#usecases/settings/hours'
import { saveSendingLimits } from '#usecases/settings/limits'
import { saveSettings } from '#usecases/settings/workspace'
import { play } from '#usecases/time/play'
import { DAY, furnish, HOUR, moveTo, openContext, step, visit, type Workshop } from './workshop'

const MINUTE = 60_000
const hours = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })
/** Shortly before the clocks are set, in New York on 14 March 2027, in Lisbon on the 28th. */
const BEGIN = Date.UTC(2027, 2, 9, 12)
const END = BEGIN + 45 * DAY
const QUIET = 12 * DAY
/** So often somebody awake looks what is due. */
const AWAKE = 3 * HOUR
const OPEN = daily([1, 2, 3, 4, 5, 6], '07:30', '21:00')
const LIMITS = { gapMinutes: 45, aDay: 2, aWeek: 6, tooMany: 'wait' as const }
const ZONES = [null, 'Asia/Kathmandu', 'America/New_York', 'Pacific/Auckland', 'Europe/Lisbon'] as const
const PEOPLE = 10
/** Who moves house midway. */
const MOVER = 3

const settings = (zone: ZoneName) => ({
  name: 'Saltmarsh Bindery', zone, senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com',
  postalAddress: 'Rua do Cais 3\n1200-000 Lisboa', currency: 'EUR', smtpUrl: null,
})

interface Live { context: Workshop, people: number[], dateId: number }

async function furnished(context: Workshop): Promise<Live> {
  const { listId, tagId } = await furnish(context, () => [
    step('one', { kind: 'at-once' }), step('two', hours(20)),
    step('three', { kind: 'next-time', time: '09:10' }, undefined, { zone: 'subscriber' }),
    {
      id: 'h', kind: 'hold', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace',
      until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'three' } }, atMost: { count: 30, unit: 'hours' },
      did: [step('yes', hours(1))], didNot: [step('no', hours(1))],
    },
    step('four', { kind: 'calendar-day', day: 2, time: '08:00', from: 'previous' }),
    step('five', { kind: 'next-weekday', weekday: 1, time: '10:00' }, undefined, { zone: 'subscriber' }),
  ])
  const course = async (name: string, more: Partial<CourseDraft>) => {
    const id = createCourse(context, name, `${name}1`)
    saveCourse(context, id, name, { listId, wayInTagIds: [], again: 'once', steps: [], ...more })
    await startCourse(context, id)
  }
  await course('quick', { wayInTagIds: [tagId], steps: [1, 2, 3, 4, 5].map(n => step(`quick${n}`, hours(n === 1 ? 19 : 3))) })
  const dateId = saveField(context, null, { name: 'runs out', label: 'Runs out', kind: 'date', choices: [] })
  await course('renewal', { dates: { fieldId: dateId, everyMonths: 0 }, steps: [-7, 0].map((days, n) =>
    step(`renewal${n}`, { kind: 'date-field', fieldId: dateId, days, time: '08:30', everyMonths: 0 }, undefined, { zone: 'subscriber' })) })
  saveSendingHours(context, OPEN)
  saveSendingLimits(context, LIMITS)
  const people = Array.from({ length: PEOPLE }, (_, n) => visit(context, `p${n}@example.com`, '', ZONES[n % ZONES.length] ?? ''))
  for (const [n, id] of people.entries()) {
    runsOut({ context, people, dateId }, id, n % 2 ? '2027-04-02' : '2027-03-29', ZONES[n % ZONES.length]!)
  }
  return { context, people, dateId }
}

const runsOut = ({ context, dateId }: Live, id: number, date: string, zone: ZoneName | null) =>
  correctPerson(context, id, { firstName: '', country: null, zone, fields: { [dateId]: date } } as never)

/** What the owner does midway. */
const CHANGES: { at: number, does(live: Live): void }[] = [
  { at: BEGIN + 4 * DAY + 3 * HOUR, does: ({ context }) => saveSettings(context, settings('America/New_York')) },
  { at: BEGIN + 9 * DAY + 9 * HOUR, does: live => runsOut(live, live.people[MOVER]!, '2027-04-02', 'Asia/Kathmandu') },
  { at: BEGIN + 12 * DAY, does: live => runsOut(live, live.people[6]!, '2027-04-20', ZONES[6 % ZONES.length]!) },
]
const workspaceZoneAt = (at: number): ZoneName => at < CHANGES[0]!.at ? 'Europe/Lisbon' : 'America/New_York'

/** Lets the time pass, from change to change, by steps of these lengths, over and over; and at last some quiet days. */
async function live(passes: (live: Live, at: number) => Promise<void>, on: Live, lengths: readonly number[]): Promise<void> {
  let [at, n] = [BEGIN, 0]
  for (const { at: stop, does } of [...CHANGES, { at: END - QUIET, does: () => undefined }, { at: END, does: () => undefined }]) {
    while (at < stop) {
      at = Math.min(stop, at + (at < END - QUIET ? lengths[n++ % lengths.length]! : AWAKE))
      await passes(on, at)
    }
    does(on)
  }
}

const ACCEPTS: Carrier = { width: 1, knowsRepeats: false, handOver: async () => ({ kind: 'accepted' }), close: async () => {} }

async function livesThrough(lengths: readonly number[]): Promise<Live> {
  const clock = { at: BEGIN }
  const on = await furnished(openContext({ mode: 'live', clock, carrier: ACCEPTS }))
  await live(async ({ context }, at) => {
    clock.at = at
    await play(context, at)
  }, on, lengths)
  return on
}

interface Sent { personId: number, thingId: number, stepId: string, occasion: string, status: string, at: number | null, askedFor: 0 | 1 }
const sentBy = ({ context }: Live): Sent[] => context.db.prepare(`
  SELECT person_id AS personId, owner_id AS thingId, item_id AS stepId, occasion, status, handed_over_at AS at, asked_for AS askedFor
  FROM outbox WHERE kind = 'course' ORDER BY id`).all() as Sent[]
const which = (mails: Sent[]) =>
  mails.map(({ personId, thingId, stepId, occasion }) => `${personId} ${thingId} ${stepId} ${occasion}`).sort()

/** Throws at the first limit that is broken. */
function check({ people }: Live, mails: Sent[]): void {
  expect(mails.filter(({ status }) => status !== 'handed over')).toEqual([])
  expect(new Set(which(mails)).size).toBe(mails.length)
  for (const [n, id] of people.entries()) {
    const own = ZONES[n % ZONES.length]!
    const counted = mails.filter(({ personId, askedFor }) => personId === id && !askedFor).sort((a, b) => a.at! - b.at!)
    for (const [k, { at, stepId }] of counted.entries()) {
      const label = `${id} ${stepId} ${new Date(at!).toISOString()}`
      if (k > 0) expect(at! - counted[k - 1]!.at!, label).toBeGreaterThanOrEqual(LIMITS.gapMinutes * MINUTE)
      if (n === MOVER) continue
      const zone = ['three', 'five', 'renewal0', 'renewal1'].includes(stepId) ? own ?? workspaceZoneAt(at!) : workspaceZoneAt(at!)
      expect(isOpen(at!, OPEN, zone), `${label} in ${zone}`).toBe(true)
    }
    if (n === MOVER || own === null) continue
    const days = counted.map(({ at }) => dayNumber(localOf(at!, own).date))
    for (const day of days) {
      expect(days.filter(other => other === day).length).toBeLessThanOrEqual(LIMITS.aDay)
      expect(days.filter(other => other >= day && other < day + 7).length).toBeLessThanOrEqual(LIMITS.aWeek)
    }
  }
}

describe('however the time passes', () => {
  it('a computer that slept sends all that one sends which was awake, and breaks no limit when it wakes', async () => {
    const awake = await livesThrough([AWAKE])
    const mails = sentBy(awake)
    check(awake, mails)
    // Six of the first course, five of the second, two of the dates.
    expect(mails).toHaveLength(PEOPLE * 13)
    expect(mails.filter(({ stepId }) => stepId === 'no')).toHaveLength(PEOPLE)
    await fc.assert(fc.asyncProperty(fc.array(
      fc.tuple(fc.integer({ min: 60, max: 5 * 24 * 60 }), fc.integer({ min: 1, max: 8 })), { minLength: 3, maxLength: 6 },
    ), async (nights) => {
      const slept = await livesThrough(
        nights.flatMap(([minutes, looks]) => [minutes * MINUTE, ...Array.from({ length: looks }, () => AWAKE)]),
      )
      const late = sentBy(slept)
      check(slept, late)
      expect(which(late)).toEqual(which(mails))
    }), { numRuns: 3, endOnFailure: true })
  })

  it('the practice clock tells the same story by any moves', async () => {
    const told = async (lengths: readonly number[]) => {
      const context = openContext()
      await moveTo(context, BEGIN)
      const on = await furnished(context)
      await live(async ({ context }, at) => moveTo(context, at), on, lengths)
      check(on, sentBy(on))
      return wholeStory(on.context.db)
    }
    const story = await told([END - BEGIN])
    expect(story.filter(({ kind }) => kind === 'put-off').length).toBeGreaterThan(20)
    for (const lengths of [[DAY], [7 * HOUR, 3 * DAY, 11 * MINUTE]]) expect(await told(lengths)).toEqual(story)
  })
})
