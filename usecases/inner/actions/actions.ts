/** What a house rule, a step of a course, or following a link does to one person, and what each action came to. */
import type { Action } from '#core/rules/rule'
import { occasionOf } from '#core/sending/occasion'
import { nextOpen } from '#core/time/hours'
import { addDays, instantOf, localOf, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { runningOf } from '#data/courses'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent, wasTakenOff } from '#data/events'
import { insertDelivery } from '#data/hooks'
import { membership } from '#data/marks'
import { insertNotice } from '#data/notices'
import { insertEmail } from '#data/outbox'
import { statusOf } from '#data/people'
import { saidNoMore } from '#data/purchases'
import { insertTodo } from '#data/todos'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { ActionCause, Cause } from '../facts/cause'
import { setField } from '../facts/fieldValue'
import { changeStatus, giveTag, joinList, leaveList, takeTag } from '../facts/marks'
import { markNoMore } from '../facts/noMore'
import { givePoints } from '../facts/points'
import { followAtOnce } from '../facts/reacting'
import { joinWaiting } from '../facts/waits'
import { endEnrolments, enrol } from '../journeys/enrolments'
import { calledBody } from './called'

/** What an action is done to and by; `cause` says the same for what it changes. */
interface Doing extends ActionCause { db: Database, personId: number, cause: Cause & { causeId: number } }

/** Does it, and says in a word what it came to: a change, or why there was none. */
type Does<Kind extends Action['kind']> = (doing: Doing, action: Extract<Action, { kind: Kind }>) => string

/** One entry for each action there is. */
const ACTIONS: { [Kind in Action['kind']]: Does<Kind> } = {
  'give-tag': ({ db, personId, cause }, { tagId }) => giveTag(db, personId, tagId, cause) ? 'given' : 'had-it',

  'take-tag': ({ db, personId, cause }, { tagId }) => takeTag(db, personId, tagId, cause) ? 'taken' : 'did-not-have-it',

  'join-list'({ db, personId, cause }, { listId }) {
    const was = membership(db, listId, personId)
    if (was === 'joined') return 'was-on-it'
    // Who left a promise themselves is not brought back to it by a rule.
    if (was === 'left' && !wasTakenOff(db, personId, listId)) return 'left-it-themselves'
    joinList(db, personId, listId, cause)
    return 'put-on'
  },

  'leave-list'({ db, personId, cause }, { listId }) {
    if (membership(db, listId, personId) !== 'joined') return 'was-not-on-it'
    leaveList(db, personId, listId, cause)
    return 'taken-off'
  },

  'set-field'({ db, personId, cause, at }, { fieldId, today, value }) {
    return setField(db, personId, fieldId, today ? localOf(at, workspaceOf(db).zone).date : value, cause) ? 'set' : 'was-so-already'
  },

  'score'({ db, personId, ...by }, { points }) {
    givePoints(db, personId, points, by)
    return 'scored'
  },

  'status'({ db, personId, cause }, { to }) {
    const before = statusOf(db, personId)
    changeStatus(db, personId, ({ resting: 'put-to-rest', active: 'woken', unsubscribed: 'unsubscribed' } as const)[to], cause)
    return statusOf(db, personId) === before ? 'was-so-already' : 'set'
  },

  'enrol'({ db, personId, at, causeId, cause }, { courseId }) {
    if ((runningOf(db, courseId)?.versionId ?? null) === null) return 'not-running'
    return enrol(db, { courseId, personId, at, causeId, ownAct: cause.ownAct })
  },

  'leave-course'({ db, personId, at, causeId, cause }, { courseId }) {
    if (!openEnrolmentsOfPerson(db, personId).some(row => row.courseId === courseId)) return 'was-not-in-it'
    const reason = cause.byRule ? 'by-rule' : cause.byCourse ? 'by-course' : 'own-choice'
    endEnrolments(db, personId, at, causeId, reason, row => row.courseId === courseId)
    return 'left-course'
  },

  'no-more'({ db, personId, at, causeId }, { offerId }) {
    if (saidNoMore(db, personId).some(one => one.offerId === offerId)) return 'was-so-already'
    markNoMore(db, personId, offerId, at, causeId)
    return 'said-no-more'
  },

  'wait': ({ db, personId, cause }, { offerId }) => joinWaiting(db, personId, offerId, cause),

  'notice'({ db, personId, at, causeId, ruleId }, { text, email }) {
    const eventId = appendEvent(db, 'noticed', at, { personId, causeId })
    const mailDueAt = email === 'no' ? null : email === 'at-once' ? at : nextMorning(db, at)
    insertNotice(db, { personId, text, ruleId, eventId, at, email, mailDueAt })
    return 'told'
  },

  'todo'({ db, personId, at, causeId, ruleId }, { text, helper, days }) {
    insertTodo(db, { personId, text, helper, dueOn: addDays(localOf(at, workspaceOf(db).zone).date, days), ruleId, causeId, at })
    return 'todo-made'
  },

  'email'({ db, personId, at, causeId, ruleId }, { messageId, listId }) {
    // The unique key of the outbox has the event in it: one event sends one email by one rule.
    insertEmail(db, {
      kind: 'rule', ownerId: ruleId!, personId, itemId: 'email', occasion: occasionOf(causeId), messageId: messageId!, listId,
      askedFor: 0, causeId, plannedAt: nextOpen(at, sendingHours(db), workspaceOf(db).zone),
    })
    return 'queued'
  },

  'webhook'({ db, personId, cause: _, ...by }, { hookId }) {
    insertDelivery(db, { hookId, personId, eventId: by.causeId, ruleId: by.ruleId, at: by.at, body: calledBody(db, personId, by) })
    return 'called'
  },
}

/**
 * Does it, in the caller's transaction, and says in a word what it came to. Courses that begin or end by it have done so before the next
 * action.
 */
export function doAction(db: Database, personId: number, action: Action, by: ActionCause): string {
  if (!statusOf(db, personId)) return 'gone'
  const { at, causeId, ruleId, courseId } = by
  const cause = {
    at, causeId, ownAct: ruleId === null && courseId === undefined, byRule: ruleId !== null, byCourse: courseId !== undefined,
  }
  const outcome = (ACTIONS[action.kind] as Does<Action['kind']>)({ ...by, db, personId, cause }, action)
  followAtOnce(db)
  return outcome
}

/** Eight in the morning of the workspace's zone: when gathered notices go. */
export function nextMorning(db: Database, at: Instant): Instant {
  const { zone } = workspaceOf(db)
  const { date, time } = localOf(at, zone)
  return instantOf(time < '08:00' ? date : addDays(date, 1), '08:00', zone)
}
