/** Today: what goes out next, what needs attention, what just happened. */
import { rateOf } from '#core/stats/rate'
import { addDays, DAY, HOUR, instantOf, localOf, type Instant } from '#core/time/zone'
import { byUrgency } from '#core/urgency'
import type { DayOfToday, Figures, Notice, TodayView } from '#core/views/today'
import { type Database, readTogether } from '#data/connection'
import { latestEvents } from '#data/events'
import { sentBetween } from '#data/outbox'
import { countArrivals, countDepartures, countPeople, findPerson } from '#data/people'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { heldView } from '../sending/hold'
import { NOTICES } from '../today/notices'
import { setupOf } from '../today/setup'
import { forecast } from '../views/forecast'
import { allNamed } from '../views/frame'
import { guarded } from '../views/guarded'

const GOING_OUT = 5
/** How far back the figures go, in days of the workspace, today included. */
const DAYS = 28

/** `systemNow`: the machine's time, by which engines are seen; null where nobody asks for them. `hasLive`: there is a live workspace. */
export const todayView = (context: WorkspaceContext, systemNow: Instant | null = null, hasLive = false): TodayView =>
  readTogether(context.db, () => wholeView(context, systemNow, hasLive))

function wholeView(context: WorkspaceContext, systemNow: Instant | null, hasLive: boolean): TodayView {
  const { db } = context
  const now = context.clock.now()
  return {
    held: heldView(context), now,
    figures: guarded(context, 'the figures of Today', () => figuresOf(context, now)),
    goingOut: guarded(context, 'what goes out next', () => allNamed(context, forecast(context, HOUR).slice(0, GOING_OUT))),
    needsAttention: byUrgency(notices(context, now, systemNow)),
    justHappened: guarded(context, 'the recent activity', () => latestEvents(db, 6).map((event) => {
      const person = event.personId === null ? undefined : findPerson(db, event.personId)
      return { ...event, person: person ? { id: person.id, name: person.firstName || person.address } : null }
    })),
    setup: guarded(context, 'the first steps', () => setupOf(context, hasLive)),
  }
}

function figuresOf({ db }: WorkspaceContext, now: Instant): Figures {
  const days = daysUntil(db, now)
  const sum = (what: Exclude<keyof DayOfToday, 'at'>) => days.reduce((total, day) => total + day[what], 0)
  const sent28 = sum('sent')
  return {
    arrivedSinceYesterday: countArrivals(db, now - DAY, now), active: countPeople(db).active,
    arrived28: sum('arrived'), left28: sum('left'),
    sent28, opened28: rateOf(sum('opened'), sent28), clicked28: rateOf(sum('clicked'), sent28), days,
  }
}

function daysUntil(db: Database, now: Instant): DayOfToday[] {
  const { zone } = workspaceOf(db)
  const today = localOf(now, zone).date
  return Array.from({ length: DAYS }, (_, n) => {
    const day = addDays(today, n + 1 - DAYS)
    const at = instantOf(day, '00:00', zone)
    // A day has its beginning and not the next one's; what is counted by time is counted after the first instant.
    const [after, until] = [at - 1, Math.min(now, instantOf(addDays(day, 1), '00:00', zone) - 1)]
    return { at, arrived: countArrivals(db, after, until), left: countDepartures(db, after, until), ...sentBetween(db, after, until) }
  })
}

function notices(context: WorkspaceContext, now: Instant, systemNow: Instant | null): Notice[] {
  const parts = NOTICES.map(part => guarded(context, 'part of what needs attention', () => part(context, now, systemNow)))
  const missing: Notice[] = parts.includes(null) ? [{
    tone: 'trouble', title: 'Part of this list is missing', text: 'Part of it could not be worked out. The log says what.',
    to: '/engine', action: 'Open the engine room',
  }] : []
  return [...missing, ...parts.flatMap(part => part ?? [])]
}
