/** What stands in the owner's weekly summary. */
import { rateOf } from '#core/stats/rate'
import type { WeeklySummary, WeekOfSending } from '#core/summary/email'
import { weekBefore } from '#core/summary/rule'
import { HOUR, type Instant } from '#core/time/zone'
import { byUrgency } from '#core/urgency'
import { type Database, readTogether } from '#data/connection'
import { sentBetween } from '#data/outbox'
import { countArrivals, countDepartures, countPeople } from '#data/people'
import { courseTraffic, paidBetween } from '#data/summary'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NOTICES } from '../today/notices'
import { forecast } from './forecast'
import { allNamed } from './frame'
import { guarded } from './guarded'

/** So many of each list; the screens have the rest. */
const MOST = 5

/** Of the week that ended at `until`; what needs attention and what goes out next are those of now. */
export const weeklySummaryView = (context: WorkspaceContext, until: Instant): WeeklySummary =>
  readTogether(context.db, () => summaryOf(context, until))

function summaryOf(context: WorkspaceContext, until: Instant): WeeklySummary {
  const { db } = context
  const { name, zone } = workspaceOf(db)
  const from = weekBefore(until, zone)
  const earlier = weekBefore(from, zone)
  const paid = paidBetween(db, from, until)
  const notices = NOTICES.flatMap(part =>
    guarded(context, 'part of what needs attention', () => part(context, context.clock.now(), null)) ?? [])
  return {
    workspace: name, zone, from, until,
    arrived: countArrivals(db, from, until), arrivedBefore: countArrivals(db, earlier, from), left: countDepartures(db, from, until),
    active: countPeople(db).active, sending: sendingBetween(db, from, until), sendingBefore: sendingBetween(db, earlier, from),
    courses: courseTraffic(db, from, until).slice(0, MOST),
    sales: {
      count: paid.reduce((sum, { count }) => sum + count, 0), sums: paid.map(({ currency, amount }) => ({ currency, amount })),
    },
    attention: byUrgency(notices).slice(0, MOST),
    goingOut: (guarded(context, 'what goes out next', () => allNamed(context, forecast(context, HOUR).slice(0, MOST))) ?? [])
      .map(({ at, title, people }) => ({ at, title, people })),
  }
}

function sendingBetween(db: Database, from: Instant, to: Instant): WeekOfSending {
  const { sent, opened, clicked } = sentBetween(db, from, to)
  return { sent, opened: rateOf(opened, sent), clicked: rateOf(clicked, sent) }
}
