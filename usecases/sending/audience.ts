/**
 * One email to everybody of an audience, once. Whom it goes to is settled when it begins; its emails are queued some people at a time, on
 * the machinery of tasks, so that it can be paused, stopped and killed, and nobody gets it twice.
 */
import { heldBackFor } from '#core/sending/checks'
import type { Condition } from '#core/audience/condition'
import type { HeldBackReason } from '#core/sending/reasons'
import type { Audience } from '#core/sending/audience'
import { kindOf, type EmailKind, type SendOf } from '#core/sending/kinds'
import { occasionOf } from '#core/sending/occasion'
import { toSql, type SqlCondition } from '#core/audience/sql'
import { AT_ONCE, timeOfReader, shareOf, type SendTiming } from '#core/sending/timing'
import { nextOpen } from '#core/time/hours'
import { MINUTE, type Instant, type ZoneName } from '#core/time/zone'
import { countByReason, countByZone } from '#data/audience'
import { immediate, readTogether, type Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findEmail, holdBackAtOnce, insertEmail, withdrawSend } from '#data/outbox'
import { releaseSend, setSendAside } from '#data/outboxAside'
import { findPerson } from '#data/people'
import {
  beginSend, dueSends, findSendById, insertSend, nextHeldUntil, releaseHeldSends, scheduledSends, setSendState, type SendRow,
} from '#data/sends'
import { endTask, findTask, pauseTask } from '#data/tasks'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { aboutAttempt } from '../inner/aboutEmail'
import { audienceChecks, type CheckedAudience } from '../inner/audienceChecks'
import { beginTask } from '../inner/beginTask'
import { audienceFactsOf, checkFactsOf } from '../inner/checkFacts'
import { momentOf } from '../inner/moment'
import { nameOfSend } from '../inner/sendNames'
import { soldBy } from '../inner/sold'
import { transact } from '../inner/reactor/transaction'
import { NotNow, NotThere } from '../problem'
import type { ForecastSource } from '../inner/forecastSource'

/** Somebody gets one email of a send to an audience. */
const ONCE = occasionOf(1)

export interface NewSend extends SendOf {
  kind: EmailKind
  messageId: number
  listId: number
  audience: Audience
  dueAt: Instant
  /** Null for all at once, as it begins. */
  timing?: SendTiming | null
  /** Of which it is a second sending. */
  parentId?: number | null
  /** It can be taken back until then, by the computer's clock, and does not begin before. */
  heldUntilAt?: Instant | null
}

/** It begins at its time. Returns its id; throws if the same was sent or is to be sent. */
export function scheduleSend(context: WorkspaceContext, send: NewSend): number {
  const id = transact(context, () => insertSend(context.db, send))
  context.wake()
  return id
}

/** So long a send that begins at once can be taken back. */
export const TAKE_BACK = MINUTE

/** What could be taken back until now begins. Returns how many these are. */
export function releaseDueSends({ db, system }: Pick<WorkspaceContext, 'db' | 'system'>, now: Instant): number {
  const until = nextHeldUntil(db)
  return until === null ? 0 : immediate(db, () => releaseHeldSends(db, system.now(), now, TAKE_BACK))
}

/** Those whose time has come are settled in whom they go to. */
export function beginDueSends(context: WorkspaceContext, at: Instant): void {
  const { db } = context
  transact(context, () => {
    for (const send of dueSends(db, at)) {
      const { of, title } = nameOfSend(db, send)
      const spec = { kind: 'send' as const, sendId: send.id }
      const whom = { kind: 'audience' as const, sendId: send.id }
      beginSend(db, send.id, beginTask(db, { title: `send ${title}, ${of}`, spec, whom, said: null, mayBeNobody: true, at: send.dueAt! }))
    }
  })
}

/** One of its people: their email is queued, or held back already where they were left out as it began. */
export function queueForOne(
  { db, baseUrl }: Pick<WorkspaceContext, 'db' | 'baseUrl'>,
  { sendId, personId, isLeftOut }: { sendId: number, personId: number, isLeftOut: boolean }, causeId: number, at: Instant,
): 'queued' | 'held-back' | 'gone' {
  const send = findSendById(db, sendId)!
  const person = findPerson(db, personId)
  if (!person) return 'gone'
  const { kind, ownerId, itemId } = send as SendRow & { kind: EmailKind }
  const [messageId, listId] = [send.messageId!, send.listId!]
  const planned = timeFor(db, send, person.zone, shareOf(sendId, personId))
  const outboxId = insertEmail(db, {
    kind, ownerId, itemId, personId, occasion: ONCE, messageId, listId, askedFor: 0, causeId, plannedAt: planned,
  })
  // Who is left out now stays so, whatever changes before it leaves; everything else is asked again then.
  if (!isLeftOut) return 'queued'
  const facts = {
    ...checkFactsOf(db, person, { listId, askedFor: false, sold: soldBy({ db, baseUrl }, messageId) }),
    ...audienceFactsOf(db, send.audience, person, planned, at), inNever: true, paused: false,
  }
  const reason = heldBackFor(kindOf(kind).checks, facts)!
  holdBackAtOnce(db, outboxId, reason)
  appendEvent(db, 'held-back', at, { ...aboutAttempt(findEmail(db, outboxId)!), listId, detail: reason })
  return 'held-back'
}

/** All its emails are queued. */
export const endOfSend = (db: Database, sendId: number): void => setSendState(db, sendId, 'sent')

/** Nothing more of it leaves until it goes on. */
export function pauseSend(context: WorkspaceContext, sendId: number): void {
  const { db } = context
  transact(context, () => {
    const { taskId } = underWay(db, sendId, ['sending', 'sent'])
    pauseTask(db, taskId!, true)
    setSendAside(db, sendId)
    setSendState(db, sendId, 'paused')
  })
}

export function resumeSend(context: WorkspaceContext, sendId: number): void {
  const { db } = context
  transact(context, () => {
    const { taskId } = underWay(db, sendId, ['paused'])
    pauseTask(db, taskId!, false)
    releaseSend(db, sendId, context.clock.now())
    setSendState(db, sendId, isQueued(db, taskId!) ? 'sent' : 'sending')
  })
  context.wake()
}

/** Whether all its emails were queued already. */
const isQueued = (db: Database, taskId: number): boolean => findTask(db, taskId)!.state === 'done'

/** So many emails are taken out of the row in one transaction. */
const BATCH = 500

/** What has not left does not leave; who was sent it was. */
export function stopSend(context: WorkspaceContext, sendId: number): void {
  const { db } = context
  transact(context, () => {
    const { taskId } = underWay(db, sendId, ['sending', 'sent', 'paused'])
    pauseTask(db, taskId!, false)
    if (!isQueued(db, taskId!)) endTask(db, taskId!, 'stopped', context.clock.now())
    setSendAside(db, sendId)
    setSendState(db, sendId, 'stopped')
  })
  for (let taken = BATCH; taken === BATCH;) {
    taken = transact(context, () => {
      const at = context.clock.now()
      const rows = withdrawSend(db, sendId, 'send-stopped', BATCH)
      for (const { id } of rows) appendEvent(db, 'withdrawn', at, { ...aboutAttempt(findEmail(db, id)!), detail: 'send-stopped' })
      return rows.length
    })
  }
}

function underWay(db: Database, sendId: number, states: readonly SendRow['state'][]): SendRow {
  const send = findSendById(db, sendId)
  if (!send) throw new NotThere('This is no longer known.')
  if (!states.includes(send.state)) throw new NotNow('This is not being sent right now.')
  return send
}

export interface AudienceReach {
  /** In the audience. */
  people: number
  /** Of these, who would be held back, each under the first reason. What only the moment of leaving can tell is not among it. */
  heldBack: { reason: HeldBackReason, people: number }[]
}

/** Whom an email of that kind would reach if it began now, by the very checks it will meet. */
export function audienceReach({ db, clock }: Pick<WorkspaceContext, 'db' | 'clock'>, of: CheckedAudience): AudienceReach {
  return readTogether(db, () => {
    const moment = momentOf(db, clock.now())
    const { by } = audienceChecks(db, of)
    const counts = countByReason(
      db, toSql(of.audience.getsIt, moment), by.map(({ reason, fits }): [HeldBackReason, SqlCondition] => [reason, toSql(fits, moment)]))
    return {
      people: [...counts.values()].reduce((sum, people) => sum + people, 0),
      heldBack: by.flatMap(({ reason }) => counts.has(reason) ? [{ reason, people: counts.get(reason)! }] : []),
    }
  })
}

/** What is scheduled: to whom it would go as things are now, each at their time. */
export const scheduledSendsAhead: ForecastSource = ({ db, baseUrl }, { now, until }, to) => {
  for (const send of scheduledSends(db, until)) {
    const { kind, listId, audience, messageId, dueAt } = send as SendRow & NewSend
    const sells = soldBy({ db, baseUrl }, messageId).map(({ id }) => id)
    const { gets } = audienceChecks(db, { kind, listId, audience, sells })
    for (const { at, people } of timesOf(db, { ...send, dueAt: Math.max(now, dueAt) }, gets, now)) if (at <= until) to(send)(at, people, 0)
  }
}

/** So many parts stand for an even spread. */
const PARTS = 24

/** When those who fit get such a send. */
export function timesOf(
  db: Database, { kind, dueAt, timing }: Pick<SendRow, 'kind' | 'dueAt' | 'timing'>, gets: Condition, now: Instant,
): { at: Instant, people: number, zone: ZoneName | null }[] {
  const zones = countByZone(db, toSql(gets, momentOf(db, now)))
  const parts = timing && timing.spreadMs > 0 ? PARTS : 1
  return zones.flatMap(({ zone, people }) => Array.from({ length: parts }, (_, n) => ({
    zone, people: people / parts, at: timeFor(db, { kind, dueAt, timing }, zone, n / parts),
  })))
}

/** When a reader of that zone is to get it, within the hours that count for them. */
function timeFor(
  db: Database, { kind, dueAt, timing }: Pick<SendRow, 'kind' | 'dueAt' | 'timing'>, own: ZoneName | null, share: number
): Instant {
  const workspaceZone = workspaceOf(db).zone
  const zone = own ?? workspaceZone
  const at = timeOfReader(timing ?? AT_ONCE, dueAt!, zone, share)
  return kindOf(kind).keepsHours ? nextOpen(at, sendingHours(db), timing?.clock ? zone : workspaceZone) : at
}
