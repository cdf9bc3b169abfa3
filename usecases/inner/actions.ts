/** What a house rule, or following a link, does to one person, and what each action came to. */
import type { Action } from '#core/rules/rule'
import { nextOpen } from '#core/time/hours'
import { addDays, instantOf, localOf, type Instant } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import type { Database } from '#data/connection'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { runningOf } from '#data/courses'
import { appendEvent, wasTakenOff } from '#data/events'
import { insertDelivery } from '#data/hooks'
import { membership } from '#data/marks'
import { insertNotice } from '#data/notices'
import { insertEmail } from '#data/outbox'
import { statusOf } from '#data/people'
import { saidNoMore } from '#data/purchases'
import { insertTodo } from '#data/todos'
import { sendingHours, workspaceOf } from '#data/workspace'
import { setField } from './fieldValue'
import { markNoMore } from './noMore'
import { endEnrolments, enrol } from './enrolments'
import { changeStatus, giveTag, joinList, leaveList, takeTag, type Cause } from './marks'
import { calledBody } from './called'
import { givePoints } from './points'
import { joinWaiting } from './waits'

/** What an action comes of: an event, by a rule, by a step of a course or, without either, by following a link, which is the person's own act. */
export interface ActionCause { at: Instant, causeId: number, ruleId: number | null, courseId?: number }

/** Does it, in the caller's transaction, and says in a word what it came to: a change, or why there was none. */
export function doAction(db: Database, personId: number, action: Action, by: ActionCause): string {
  const { at, causeId, ruleId } = by
  const ownAct = ruleId === null && by.courseId === undefined
  const cause: Cause = { at, causeId, ownAct, byRule: ruleId !== null, byCourse: by.courseId !== undefined }
  const status = statusOf(db, personId)
  if (!status) return 'gone'
  switch (action.kind) {
    case 'give-tag':
      return giveTag(db, personId, action.tagId, cause) ? 'given' : 'had-it'
    case 'take-tag':
      return takeTag(db, personId, action.tagId, cause) ? 'taken' : 'did-not-have-it'
    case 'join-list': {
      const was = membership(db, action.listId, personId)
      if (was === 'joined') return 'was-on-it'
      // Who left a promise themselves is not brought back to it by a rule.
      if (was === 'left' && !wasTakenOff(db, personId, action.listId)) return 'left-it-themselves'
      joinList(db, personId, action.listId, cause)
      return 'put-on'
    }
    case 'leave-list': {
      if (membership(db, action.listId, personId) !== 'joined') return 'was-not-on-it'
      leaveList(db, personId, action.listId, cause)
      return 'taken-off'
    }
    case 'set-field':
      return setField(db, personId, action.fieldId, action.today ? localOf(at, workspaceOf(db).zone).date : action.value, cause) ? 'set' : 'was-so-already'
    case 'score':
      givePoints(db, personId, action.points, by)
      return 'scored'
    case 'status': {
      changeStatus(db, personId, ({ resting: 'put-to-rest', active: 'woken', unsubscribed: 'unsubscribed' } as const)[action.to], cause)
      return statusOf(db, personId) === status ? 'was-so-already' : 'set'
    }
    case 'enrol':
      return (runningOf(db, action.courseId)?.versionId ?? null) === null ? 'not-running' : enrol(db, { courseId: action.courseId, personId, at, causeId, ownAct: cause.ownAct })
    case 'leave-course': {
      if (!openEnrolmentsOfPerson(db, personId).some(({ courseId }) => courseId === action.courseId)) return 'was-not-in-it'
      endEnrolments(db, personId, at, causeId, ownAct ? 'own-choice' : ruleId === null ? 'by-course' : 'by-rule', ({ courseId }) => courseId === action.courseId)
      return 'left-course'
    }
    case 'no-more':
      if (saidNoMore(db, personId).some(({ offerId }) => offerId === action.offerId)) return 'was-so-already'
      markNoMore(db, personId, action.offerId, at, causeId)
      return 'said-no-more'
    case 'wait':
      return joinWaiting(db, personId, action.offerId, { ...cause, causeId })
    case 'notice': {
      const eventId = appendEvent(db, 'noticed', at, { personId, causeId })
      insertNotice(db, { personId, text: action.text, ruleId, eventId, at, email: action.email, mailDueAt: action.email === 'no' ? null : action.email === 'at-once' ? at : nextMorning(db, at) })
      return 'told'
    }
    case 'todo': {
      const dueOn = addDays(localOf(at, workspaceOf(db).zone).date, action.days)
      insertTodo(db, { personId, text: action.text, helper: action.helper, dueOn, ruleId, causeId, at })
      return 'todo-made'
    }
    case 'email':
      // The unique key of the outbox has the event in it: one event sends one email by one rule.
      insertEmail(db, {
        kind: 'rule', ownerId: ruleId!, personId, itemId: 'email', occasion: occasionOf(causeId), messageId: action.messageId!,
        listId: action.listId, askedFor: 0, causeId, plannedAt: nextOpen(at, sendingHours(db), workspaceOf(db).zone),
      })
      return 'queued'
    case 'webhook':
      insertDelivery(db, { hookId: action.hookId, personId, eventId: causeId, ruleId, at, body: calledBody(db, personId, by) })
      return 'called'
  }
}

/** Eight in the morning of the workspace's zone: when gathered notices go. */
export function nextMorning(db: Database, at: Instant): Instant {
  const { zone } = workspaceOf(db)
  const { date, time } = localOf(at, zone)
  return instantOf(time < '08:00' ? date : addDays(date, 1), '08:00', zone)
}
