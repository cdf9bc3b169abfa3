/** Today: what goes out next, what needs attention, what just happened. */
import { rateOf } from '#core/stats/rate'
import { DAY, HOUR, type Instant } from '#core/time/zone'
import type { Figures, FirstSteps, Notice, TodayView } from '#core/views/today'
import { type Database, readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { latestEvents } from '#data/events'
import { sentBetween } from '#data/outbox'
import { allPages } from '#data/pages'
import { countArrivals, countPeople, findPerson } from '#data/people'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NOTICES } from '../today/notices'
import { forecast } from '../views/forecast'
import { allNamed } from '../views/frame'
import { guarded } from '../views/guarded'

/** `systemNow`: the machine's time, by which engines are seen; null where nobody asks for them. */
export const todayView = (context: WorkspaceContext, systemNow: Instant | null = null): TodayView =>
  readTogether(context.db, () => needsAttentionToday(context, systemNow))

function needsAttentionToday(context: WorkspaceContext, systemNow: Instant | null): TodayView {
  const { db } = context
  const now = context.clock.now()
  return {
    now,
    figures: guarded(context, 'the figures of Today', () => figuresOf(context, now)),
    goingOut: guarded(context, 'what goes out next', () => allNamed(context, forecast(context, HOUR).slice(0, 7))),
    needsAttention: notices(context, now, systemNow),
    justHappened: guarded(context, 'the recent activity', () => latestEvents(db, 6).map((event) => {
      const person = event.personId === null ? undefined : findPerson(db, event.personId)
      return { ...event, person: person ? { id: person.id, name: person.firstName || person.address } : null }
    })),
    begin: firstSteps(db),
  }
}

function firstSteps(db: Database): FirstSteps | null {
  const { senderAddress, postalAddress } = workspaceOf(db)
  const steps: FirstSteps = {
    sender: senderAddress !== '' && postalAddress.trim() !== '', page: allPages(db).some(({ published }) => published !== null),
    course: allCourses(db).some(({ status }) => status === 'running'), tried: Object.values(countPeople(db)).some(count => count > 0),
  }
  return Object.values(steps).every(Boolean) ? null : steps
}

function figuresOf({ db }: WorkspaceContext, now: Instant): Figures {
  const month = sentBetween(db, now - 28 * DAY, now)
  return {
    arrivedSinceYesterday: countArrivals(db, now - DAY, now), active: countPeople(db).active,
    arrived28: countArrivals(db, now - 28 * DAY, now),
    sent28: month.sent, opened28: rateOf(month.opened, month.sent), clicked28: rateOf(month.clicked, month.sent),
  }
}

function notices(context: WorkspaceContext, now: Instant, systemNow: Instant | null): Notice[] {
  const parts = NOTICES.map(part => guarded(context, 'part of what needs attention', () => part(context, now, systemNow)))
  const missing: Notice[] = parts.includes(null) ? [{
    tone: 'trouble', title: 'Part of this list is missing', text: 'Something in it could not be worked out; the log says what.',
    to: '/engine',
  }] : []
  return [...missing, ...parts.flatMap(part => part ?? [])]
}
