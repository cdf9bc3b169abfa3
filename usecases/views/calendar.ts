/** What will go out in the coming 28 days, per half hour, and who would get too much on one of them. */
import { within } from '#core/maps'
import { QUARTER } from '#core/sequence/ahead'
import { addDays, instantOf, localOf, type Instant, type LocalDate, type ZoneName } from '#core/time/zone'
import type { CalendarDay, CalendarSend, CalendarView, Expected } from '#core/views/calendar'
import type { SendOf } from '#core/sending/kinds'
import type { SendName } from '#core/views/frame'
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
    const byDay = gathered(ahead, { now, until, zone, named })
    const crowds = crowdsBy(ahead, now, zone, most)
    const days = Array.from({ length: CALENDAR_DAYS }, (_, n): CalendarDay => {
      const date = addDays(first, n)
      const halves = byDay.get(date) ?? new Map<string, Share[]>()
      return {
        date, at: instantOf(date, '00:00', zone), ...expected([...halves.values()].flat()), slots: slotsOf(halves),
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

/** Emails of one step in one half-hour. `spread`: the variance of what is expected. */
interface Share { send: SendOf & SendName, people: number, spread: number }

/** By date and half-hour of the workspace’s clock, like 09:30. What should have gone already goes now. */
function gathered(
  ahead: Ahead, { now, until, zone, named }: { now: Instant, until: Instant, zone: ZoneName, named: (of: SendOf) => SendName },
): Map<LocalDate, Map<string, Share[]>> {
  const first = Math.floor(now / QUARTER)
  const quarters = Math.floor(until / QUARTER) - first + 1
  const steps = new Map<string, { send: Share['send'], people: Float64Array, spread: Float64Array }>()
  ahead.eachSend(({ kind, ownerId, itemId }): Add => {
    const of = { kind, ownerId, itemId }
    const { people, spread } = within(steps, keyOfSend(of), () => ({
      send: { ...of, ...named(of) }, people: new Float64Array(quarters), spread: new Float64Array(quarters),
    }))
    return (at, expected, variance) => {
      const quarter = Math.max(0, Math.floor(at / QUARTER) - first)
      people[quarter]! += expected
      spread[quarter]! += variance
    }
  })
  const days = new Map<LocalDate, Map<string, Share[]>>()
  const halfOf = (quarter: number): Share[] => {
    const { date, time } = localOf((first + quarter) * QUARTER, zone)
    const half = `${time.slice(0, 3)}${time.slice(3) < '30' ? '00' : '30'}`
    return within(within(days, date, () => new Map<string, Share[]>()), half, () => [])
  }
  // Each is looked up once, and not for every step: a long course has something in each of them.
  const halves: Share[][] = []
  for (const { send, people, spread } of steps.values()) {
    for (let quarter = 0; quarter < quarters; quarter++) {
      if (people[quarter] === 0) continue
      const half = halves[quarter] ??= halfOf(quarter)
      const last = half.at(-1)
      if (last?.send === send) {
        last.people += people[quarter]!
        last.spread += spread[quarter]!
      }
      else half.push({ send, people: people[quarter]!, spread: spread[quarter]! })
    }
  }
  return days
}

/** Where nothing is open the bounds are the number itself. */
function expected(shares: readonly Share[]): Expected {
  const people = shares.reduce((sum, share) => sum + share.people, 0)
  const reach = SURE * Math.sqrt(shares.reduce((sum, share) => sum + share.spread, 0))
  return { people: Math.round(people), low: Math.max(0, Math.floor(people - reach + 1e-9)), high: Math.ceil(people + reach - 1e-9) }
}

function slotsOf(halves: Map<string, Share[]>): CalendarDay['slots'] {
  return [...halves].sort(([a], [b]) => a.localeCompare(b)).map(([time, shares]) => ({
    time, ...expected(shares),
    sends: shares.map((share): CalendarSend => ({ ...share.send, ...expected([share]) })).sort((a, b) => b.people - a.people),
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
