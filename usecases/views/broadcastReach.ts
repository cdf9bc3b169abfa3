/** Whom a broadcast would reach, and when. Slow for many people: the server asks this in a thread of its own. */
import { leavesOf, type Condition } from '#core/audience/condition'
import { partsOf } from '#core/audience/parts'
import { sayCondition } from '#core/audience/say'
import { toSql, type SqlCondition } from '#core/audience/sql'
import { audienceOf, type BroadcastDraft } from '#core/broadcast/draft'
import { usualHour, type UsualHour } from '#core/broadcast/usualHour'
import { addDays, DAY, HOUR, instantOf, localOf, type Instant, type LocalDate, type ZoneName } from '#core/time/zone'
import type { BroadcastReach, Counted } from '#core/views/broadcast'
import { goingFor } from '#core/sending/domainPace'
import { daysFor, mostOn } from '#core/sending/warmUp'
import { countByDomain, countByReason, opensByHour, peopleWhere, sampleOf } from '#data/audience'
import { sendingPace } from '#data/carrier'
import { readTogether, type Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { domainRates } from '#data/domainPace'
import { findList } from '#data/marks'
import { emailsWaitingFor } from '#data/outbox'
import { countWhere } from '#data/people'
import { sentByDay, warmUpOf } from '#data/warmUp'
import { workspaceOf } from '#data/workspace'
import { layOut, missingOfBroadcast } from '../broadcasts/schedule'
import type { WorkspaceContext } from '../context'
import { allOf } from '../inner/audienceChecks'
import { broadcastPeople, HEARD, NEVER_HEARD, sellsOf, sentWithin } from '../inner/broadcastPeople'
import { momentOf } from '../inner/moment'
import { namesOf } from '../inner/names'
import { senderOf } from '../inner/senderOf'
import { keyOfSend, sendNamer, sendOfKey } from '../inner/sendNames'
import { checkCondition } from '../know/segments'
import { InputProblem } from '../problem'
import { audienceReach, timesOf } from '../sending/audience'
import { aheadOf } from './ahead'

export function broadcastReach(context: WorkspaceContext, { id, draft }: { id: number, draft: BroadcastDraft }): BroadcastReach {
  const { db, clock } = context
  return readTogether(db, () => {
    const parts = partsOf(draft.who)
    const problem = checkCondition(db, parts.belongs, null) ?? checkCondition(db, parts.never, null)
    if (problem) throw new InputProblem([{ field: 'who', problem }])
    const now = clock.now()
    const moment = momentOf(db, now)
    const sql = (condition: Condition) => toSql(condition, moment)
    const behind = broadcastPeople(context, draft)
    const count = (where: Condition) => countWhere(db, { search: '', where: sql(where) })
    const counted = (key: string): Counted => ({ key, people: count(behind.get(key)!.where) })
    const sold = sellsOf(context, draft)
    const reach = audienceReach(context, {
      kind: 'broadcast', listId: draft.listId, audience: audienceOf(draft), sells: sold.map(offer => offer.id),
    })
    const held = reach.heldBack.reduce((sum, { people }) => sum + people, 0)
    const gets = behind.get('gets')!.where
    const list = draft.listId === null ? undefined : findList(db, draft.listId)
    const onList: Condition | null = list ? { kind: 'list', listId: list.id, is: 'joined' } : null
    const names = namesOf(db)
    return {
      at: now, getsIt: sayCondition(parts.belongs, names),
      never: leavesOf(parts.never).length === 0 ? '' : sayCondition({ kind: 'any', of: parts.never.of }, names),
      audience: { people: reach.people, key: 'audience' }, gets: { people: reach.people - held, key: 'gets' },
      held: { people: held, key: 'held' },
      heldBack: reach.heldBack.map(({ reason, people }) => ({ reason, people, key: `held-${reason}` })),
      five: sampleOf(db, sql(gets), 5).map(({ firstName, ...person }) => ({ ...person, name: firstName || person.address })),
      list: list && onList ? { name: list.name, people: count(onList), gets: count(allOf(gets, onList)) } : null,
      heard: heardOf(db, gets, sql), usual: usualOf(db, sql(gets), now),
      guards: {
        newcomers: counted('newcomers'), owners: counted('owners'), noMore: counted('no-more'), noConsent: counted('no-consent'),
        inside: allCourses(db).filter(({ id: courseId, status }) => status === 'running' || draft.guards.insideCourseIds.includes(courseId))
          .map(({ id: courseId, name }) => ({ courseId, name, ...counted(`inside-${courseId}`) })),
        sells: sold.map(({ name }) => name),
      },
      going: goingFor(isLimited(db) ? countByDomain(db, sql(gets)) : [], domainRates(db), sendingPace(db).aMinute),
      ...timesAndDay(context, id, draft, gets),
    }
  })
}

const isLimited = (db: Database): boolean => {
  const { everyDomain, domains } = domainRates(db)
  return everyDomain !== null || domains.length > 0 || sendingPace(db).aMinute !== null
}

/** From the day on which it begins, as if nothing else left from that sender. Readers whose tags say another sender are not told apart. */
function warmUpFor(
  db: Database, { content, listId }: BroadcastDraft, { firstAt, people }: { firstAt: Instant, people: number }, now: Instant,
): BroadcastReach['warmUp'] {
  const sender = senderOf(db, { senderId: content.senderId ?? null, listId, personId: null })
  const plan = sender && warmUpOf(db, sender.id)
  if (!plan) return null
  const { zone } = workspaceOf(db)
  const [today, first] = [localOf(now, zone).date, localOf(firstAt, zone).date]
  const sent = sentByDay(db, sender.id, plan.startedOn)
  if (mostOn(plan, sent, today) === null) return null
  const left = first === today ? sent.find(({ date }) => date === today)?.sent ?? 0 : 0
  return { sender: sender.name, days: daysFor(plan, sent, { date: first, sent: left }, people) }
}

/** By the clock of each of them. */
function usualOf(db: Database, gets: SqlCondition, now: Instant): UsualHour | null {
  const { zone: workspaceZone } = workspaceOf(db)
  const opens = Array<number>(24).fill(0)
  for (const { zone, hour, opens: n } of opensByHour(db, gets, now - 90 * DAY)) {
    opens[Number(localOf(hour * HOUR, zone ?? workspaceZone).time.slice(0, 2))]! += n
  }
  return usualHour(opens)
}

function heardOf(db: Database, gets: Condition, sql: (condition: Condition) => SqlCondition): BroadcastReach['heard'] {
  const counts = countByReason(db, sql(gets), HEARD.map(({ key, days }) => [key, sql(sentWithin(days))]))
  return [
    ...HEARD.map(({ key, says }) => ({ key, says, people: counts.get(key) ?? 0 })), { ...NEVER_HEARD, people: counts.get(null) ?? 0 },
  ].filter(({ people }) => people > 0)
}

function timesAndDay(
  context: WorkspaceContext, id: number, draft: BroadcastDraft, gets: Condition,
): Pick<BroadcastReach, 'times' | 'sameDay' | 'warmUp'> {
  const { db, clock } = context
  if (missingOfBroadcast(context, draft).some(({ field }) => field === 'when')) return { times: null, sameDay: null, warmUp: null }
  const now = clock.now()
  const { zone } = workspaceOf(db)
  const { dueAt, timing } = layOut(db, draft, now)
  const times = timesOf(db, { kind: 'broadcast', dueAt: Math.max(now, dueAt), timing }, gets, now).sort((a, b) => a.at - b.at)
  const first = times[0]
  if (!first) return { times: null, sameDay: null, warmUp: null }
  const hours = new Map<Instant, number>()
  const days = new Map<string, number>()
  for (const { at, people } of times) {
    const hour = Math.floor(at / HOUR) * HOUR
    hours.set(hour, (hours.get(hour) ?? 0) + people)
    const { date } = localOf(at, zone)
    days.set(date, (days.get(date) ?? 0) + people)
  }
  const date = [...days].sort(([, a], [, b]) => b - a)[0]![0]
  return {
    times: {
      firstAt: first.at, lastAt: times.at(-1)!.at, hours: [...hours].map(([at, people]) => ({ at, people: Math.round(people) })),
      withoutZone: Math.round(times.filter(one => one.zone === null).reduce((sum, { people }) => sum + people, 0)),
      firstZone: first.zone ?? zone,
    },
    sameDay: sameDay(context, id, date, zone, gets),
    warmUp: warmUpFor(db, draft, { firstAt: first.at, people: Math.round(times.reduce((sum, { people }) => sum + people, 0)) }, now),
  }
}

/** What else those who get it are to get on that day of the workspace, as far as it is planned. */
function sameDay(context: WorkspaceContext, id: number, date: LocalDate, zone: ZoneName, gets: Condition): BroadcastReach['sameDay'] {
  const { db, clock } = context
  const now = clock.now()
  const [from, until] = [instantOf(date, '00:00', zone), instantOf(addDays(date, 1), '00:00', zone) - 1]
  const people = peopleWhere(db, toSql(gets, momentOf(db, now)))
  const among = new Set(people)
  const others = new Map<string, { at: Instant, people: Set<number> }>()
  const add = (key: string, personId: number, at: Instant) => {
    const known = others.get(key)
    if (!known) others.set(key, { at, people: new Set([personId]) })
    else {
      known.at = Math.min(known.at, at)
      known.people.add(personId)
    }
  }
  aheadOf(context, { now, until, unit: 1 }).eachOfPeople(people, (personId, _, plannedAt, __, of) => {
    const at = Math.max(now, plannedAt)
    if (at >= from && at <= until) add(keyOfSend(of), personId, at)
  })
  for (const { personId, at, ...of } of emailsWaitingFor(db, from, until)) {
    if (among.has(personId) && !(of.kind === 'broadcast' && of.ownerId === id)) add(keyOfSend(of), personId, Math.max(now, at))
  }
  const named = sendNamer(db)
  const some = new Set([...others.values()].flatMap(other => [...other.people]))
  return {
    date, alone: people.length - some.size,
    others: [...others].map(([key, other]) => {
      const of = sendOfKey(key)
      return { ...of, ...named(of), at: other.at, people: other.people.size }
    }).sort((a, b) => a.at - b.at),
  }
}
