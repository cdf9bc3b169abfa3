/** What will go out in the coming 28 days, per half hour, and who would get too much on one of them. */
import { QUARTER } from '#core/sequence/ahead'
import { addDays, instantOf, localOf, type Instant, type LocalDate, type ZoneName } from '#core/time/zone'
import type { CalendarDay, CalendarSend, CalendarView, Expected } from '#core/views/calendar'
import type { SendOf } from '#core/sending/kinds'
import type { ComingSend, SendName } from '#core/views/frame'
import { readTogether } from '#data/connection'
import { sendingLimits } from '#data/limits'
import { addressesOf } from '#data/people'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { keyOfSend, sendNamer } from '../inner/sendNames'
import { aheadOf, type Ahead } from './ahead'
import type { Add } from '../inner/forecastSource'

export const CALENDAR_DAYS = 28

/** More than so many a day is pointed at where the workspace sets no limit of its own. */
const MANY = 2

/** So many crowds are named. */
const MOST_CROWDS = 20

/** Nineteen of twenty. */
const SURE = 1.96

export function calendarView(context: WorkspaceContext): CalendarView {
  const { db } = context
  return readTogether(db, () => {
    const now = context.clock.now()
    const { zone } = workspaceOf(db)
    const first = localOf(now, zone).date
    const until = instantOf(addDays(first, CALENDAR_DAYS), '00:00', zone) - 1
    const most = sendingLimits(db).aDay ?? MANY
    const named = sendNamer(db)
    const ahead = aheadOf(context, { now, until, unit: QUARTER })
    const local = localTimes(zone)
    const byDay = new Map<LocalDate, Send[]>()
    for (const send of gathered(ahead, now, until)) {
      const { date } = local(send.at)
      const day = byDay.get(date)
      if (day) day.push(send)
      else byDay.set(date, [send])
    }
    const crowds = crowdsBy(ahead, now, zone, most)
    const days = Array.from({ length: CALENDAR_DAYS }, (_, n): CalendarDay => {
      const date = addDays(first, n)
      const sends = byDay.get(date) ?? []
      return {
        date, at: instantOf(date, '00:00', zone), ...expected(sends), slots: slotsOf(sends, local, named),
        crowded: new Set(crowds.filter(crowd => crowd.date === date).map(({ personId }) => personId)).size,
      }
    })
    const fullest = crowds.sort((a, b) => b.emails - a.emails || a.date.localeCompare(b.date)).slice(0, MOST_CROWDS)
    const names = new Map(addressesOf(db, fullest.map(({ personId }) => personId)).map(({ id, name: called }) => [id, called]))
    return { now, zone, most, days, crowds: fullest.map(crowd => ({ ...crowd, name: names.get(crowd.personId) ?? '' })) }
  })
}

/** Local times of a zone, each reckoned once: many go in the same quarter of an hour. */
function localTimes(zone: string): (at: Instant) => ReturnType<typeof localOf> {
  const known = new Map<Instant, ReturnType<typeof localOf>>()
  return (at) => {
    let local = known.get(at)
    if (!local) known.set(at, local = localOf(at, zone))
    return local
  }
}

/** Emails of one step in one quarter of an hour. `spread`: the variance of what is expected. */
interface Send extends ComingSend { spread: number }

/** What should have gone already goes now. */
function gathered(ahead: Ahead, now: Instant, until: Instant): Send[] {
  const first = Math.floor(now / QUARTER)
  const slots = Math.floor(until / QUARTER) - first + 1
  const steps = new Map<string, { of: SendOf, people: Float64Array, spread: Float64Array }>()
  ahead.eachSend((of): Add => {
    const key = keyOfSend(of)
    let step = steps.get(key)
    if (!step) steps.set(key, step = { of, people: new Float64Array(slots), spread: new Float64Array(slots) })
    const { people, spread } = step
    return (at, expected, variance) => {
      const slot = Math.max(0, Math.floor(at / QUARTER) - first)
      people[slot]! += expected
      spread[slot]! += variance
    }
  })
  return [...steps.values()].flatMap(({ of, people, spread }) => [...people].flatMap((expected, slot) => expected > 0
    ? [{ ...of, at: (first + slot) * QUARTER, people: expected, spread: spread[slot]! }]
    : []))
}

/** Where nothing is open the bounds are the number itself. */
function expected(sends: readonly Send[]): Expected {
  const people = sends.reduce((sum, send) => sum + send.people, 0)
  const reach = SURE * Math.sqrt(sends.reduce((sum, send) => sum + send.spread, 0))
  return { people: Math.round(people), low: Math.max(0, Math.floor(people - reach + 1e-9)), high: Math.ceil(people + reach - 1e-9) }
}

function slotsOf(sends: readonly Send[], local: ReturnType<typeof localTimes>, name: (of: SendOf) => SendName): CalendarDay['slots'] {
  const slots = new Map<string, Map<string, Send[]>>()
  for (const send of sends) {
    const { time } = local(send.at)
    const half = `${time.slice(0, 3)}${time.slice(3) < '30' ? '00' : '30'}`
    const steps = slots.get(half) ?? new Map<string, Send[]>()
    slots.set(half, steps)
    const key = keyOfSend(send)
    const known = steps.get(key)
    if (known) known.push(send)
    else steps.set(key, [send])
  }
  return [...slots].sort(([a], [b]) => a.localeCompare(b)).map(([time, steps]) => ({
    time, ...expected([...steps.values()].flat()),
    sends: [...steps.values()].map((all): CalendarSend => {
      const { kind, ownerId, itemId } = all[0]!
      return { kind, ownerId, itemId, ...name({ kind, ownerId, itemId }), ...expected(all) }
    }).sort((a, b) => b.people - a.people),
  }))
}

/** Per person and day of their own calendar. Parts of people count as what is expected. */
function crowdsBy(
  ahead: Ahead, now: Instant, workspaceZone: ZoneName, most: number,
): { personId: number, date: LocalDate, emails: number }[] {
  const perDay = new Map<string, number>()
  const clocks = new Map<ZoneName, ReturnType<typeof localTimes>>()
  ahead.eachOfCrowds(most, (personId, ownZone, plannedAt, part) => {
    const zone = ownZone ?? workspaceZone
    let local = clocks.get(zone)
    if (!local) clocks.set(zone, local = localTimes(zone))
    const key = `${personId}/${local(Math.max(plannedAt, now)).date}`
    perDay.set(key, (perDay.get(key) ?? 0) + part)
  })
  return [...perDay].filter(([, emails]) => emails > most)
    .map(([key, emails]) => ({ personId: Number(key.split('/')[0]), date: key.split('/')[1]!, emails: Math.round(emails) }))
}
