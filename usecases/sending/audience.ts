/**
 * One email to everybody of an audience, once. Whom it goes to is settled when it begins; its emails are queued some people at a time, on
 * the machinery of tasks, so that it can be paused, stopped and killed, and nobody gets it twice.
 */
import { heldBackBy, heldBackFor, type CheckedSend } from '#core/sending/checks'
import type { HeldBackReason } from '#core/sending/reasons'
import type { Audience } from '#core/sending/audience'
import { kindOf, type EmailKind, type SendOf } from '#core/sending/kinds'
import { occasionOf } from '#core/sending/occasion'
import { toSql, type SqlCondition } from '#core/audience/sql'
import { nextOpen } from '#core/time/hours'
import type { Instant } from '#core/time/zone'
import { countByReason } from '#data/audience'
import { readTogether, type Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findList } from '#data/marks'
import { findEmail, holdBackAtOnce, insertEmail, releaseSend, setSendAside, withdrawSend } from '#data/outbox'
import { findPerson } from '#data/people'
import { beginSend, dueSends, findSendById, insertSend, setSendState, type SendRow } from '#data/sends'
import { endTask, findTask, pauseTask } from '#data/tasks'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { aboutAttempt } from '../inner/aboutEmail'
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
}

/** It begins at its time. Returns its id; throws if the same was sent or is to be sent. */
export function scheduleSend(context: WorkspaceContext, send: NewSend): number {
  const id = transact(context, () => insertSend(context.db, send))
  context.wake()
  return id
}

/** Those whose time has come are settled in whom they go to. */
export function beginDueSends(context: WorkspaceContext, at: Instant): void {
  const { db } = context
  transact(context, () => {
    for (const send of dueSends(db, at)) {
      const { of, title } = nameOfSend(db, send)
      const spec = { kind: 'send' as const, sendId: send.id }
      const whom = { kind: 'fitting' as const, search: '', condition: send.audience!.getsIt }
      beginSend(db, send.id, beginTask(db, { title: `send ${title}, ${of}`, spec, whom, said: null, mayBeNobody: true, at: send.dueAt! }))
    }
  })
}

/** One of its people: their email is queued, or held back already where they are left out. */
export function queueForOne(
  { db, baseUrl }: WorkspaceContext, sendId: number, personId: number, causeId: number, at: Instant,
): 'queued' | 'held-back' | 'gone' {
  const send = findSendById(db, sendId)!
  const person = findPerson(db, personId)
  if (!person) return 'gone'
  const { kind, ownerId, itemId } = send as SendRow & { kind: EmailKind }
  const [messageId, listId] = [send.messageId!, send.listId!]
  const plannedAt = kindOf(kind).keepsHours ? nextOpen(send.dueAt!, sendingHours(db), workspaceOf(db).zone) : send.dueAt!
  const outboxId = insertEmail(db, { kind, ownerId, itemId, personId, occasion: ONCE, messageId, listId, askedFor: 0, causeId, plannedAt })
  // Who is left out now stays so, whatever changes before it leaves; everything else is asked again then.
  const facts = {
    ...checkFactsOf(db, person, { listId, askedFor: false, sold: soldBy({ db, baseUrl }, messageId) }),
    ...audienceFactsOf(db, send.audience, person, plannedAt, at),
  }
  const reason = facts.inNever ? heldBackFor(kindOf(kind).checks, { ...facts, paused: false }) : null
  if (reason === null) return 'queued'
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

/** Whom it would reach if it began now, by the very checks it will meet. */
export function audienceReach(
  { db, baseUrl, clock }: Pick<WorkspaceContext, 'db' | 'baseUrl' | 'clock'>,
  { kind, messageId, listId, audience }: Pick<NewSend, 'kind' | 'messageId' | 'listId' | 'audience'>,
): AudienceReach {
  return readTogether(db, () => {
    const moment = momentOf(db, clock.now())
    const of: CheckedSend = {
      listId, closedListId: findList(db, listId)?.takesEverybody === 1 ? null : listId, never: audience.never,
      newcomerDays: audience.newcomerDays,
      sells: soldBy({ db, baseUrl }, messageId).map(({ id }) => id),
    }
    const by = [...heldBackBy(kindOf(kind).checks, of)]
    const reasons = by.map(([reason, conditions]): [HeldBackReason, SqlCondition] =>
      [reason, toSql({ kind: 'all', of: conditions }, moment)])
    const counts = countByReason(db, toSql(audience.getsIt, moment), reasons)
    return {
      people: [...counts.values()].reduce((sum, people) => sum + people, 0),
      heldBack: by.flatMap(([reason]) => counts.has(reason) ? [{ reason, people: counts.get(reason)! }] : []),
    }
  })
}

/** What is scheduled: to whom it would go as things are now. */
export const scheduledSendsAhead: ForecastSource = ({ db, baseUrl }, { now, until }, to) => {
  for (const send of dueSends(db, until)) {
    const { people, heldBack } = audienceReach({ db, baseUrl, clock: { now: () => now } }, send as NewSend)
    to(send)(Math.max(now, send.dueAt!), people - heldBack.reduce((sum, one) => sum + one.people, 0), 0)
  }
}
