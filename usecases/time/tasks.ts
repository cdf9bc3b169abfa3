/** Doing what was said for many at once: a few people in each transaction, so that nobody else waits. */
import type { Outcome, TaskSpec } from '#core/people/task'
import { isChange } from '#core/people/task'
import { DAY, MINUTE, type Instant } from '#core/time/zone'
import { isBusy, type Database } from '#data/connection'
import { appendEvent, causeOf, wasTakenOff, writingAs, type RawEvent } from '#data/events'
import { isGone } from '#core/people/status'
import { setScheduledEntry } from '#data/entries'
import { visitsOf } from '#data/enrolments'
import { fieldOfPerson } from '#data/fields'
import {
  findHolding, findMembership, findTag, forgetMembership, hasTag, insertHolding, membership, setJoined, type Holding, type Membership,
} from '#data/marks'
import { findPerson } from '#data/people'
import { findRule } from '#data/rules'
import { advanceTask, endTask, findTask, nextPeople, openTask, setOutcome, type TaskRow } from '#data/tasks'
import type { WorkspaceContext } from '../context'
import { gatherSome } from '../inner/beginTask'
import { transact } from '../inner/reactor/transaction'
import { enrolSince, scheduleEntry } from '../inner/journeys/scheduledEntries'
import { enrol, goOn } from '../inner/journeys/enrolments'
import { Story } from '../inner/reactor/rules'
import { giveTag, joinList, leaveList, takeTag } from '../inner/facts/marks'
import { settled } from '../inner/facts/reacting'
import { mergeSome } from '../know/endMarks'
import { erase } from '../know/erase'
import { endOfSend, queueForOne } from '../sending/audience'
import { setField } from '../inner/facts/fieldValue'
import type { Cause } from '../inner/facts/cause'
import { importSome } from './importRows'

/** Few enough that a sign-up hardly waits, also where rules wake on each of them; enough that the disk is not asked for each. */
const BATCH = 60
/** A row is quick, and wakes little. */
const ROWS = 250

interface Done { outcome: Outcome, before: string | number | null }
const done = (outcome: Outcome, before: Done['before'] = null): Done => ({ outcome, before })

/** A bit of the task that is under way. True if there was one. */
export function workOnTask(context: WorkspaceContext): boolean {
  const { db } = context
  if (!openTask(db)) return false
  try {
    return transact(context, () => {
      const task = openTask(db)
      if (!task) return false
      const at = context.clock.now()
      const { spec } = task
      if (task.whom !== null) {
        if (gatherSome(db, task) === 0) finish(db, task, at)
        return true
      }
      if (spec.kind === 'merge-tags' || spec.kind === 'merge-lists') {
        mergeSome(db, task, spec, at)
        return true
      }
      const outcomes = spec.kind === 'import' ? importSome(
        context, { ...task, spec }, at, ROWS,
      ) : nextPeople(db, task, BATCH).map(({ n, personId, before }) => {
        const cause = { at, causeId: task.eventId, ownAct: false, byOwner: true }
        // What follows for one person is done before the next one's turn.
        const one = findPerson(db, personId)
          ? settled(db, () => doToOne(context, task, spec, { n, personId, before }, cause))
          : done('gone', before)
        setOutcome(db, task.id, n, one.outcome, one.before)
        return one.outcome
      })
      advanceTask(db, task.id, { done: outcomes.length, changed: outcomes.filter(isChange).length })
      if (outcomes.length === 0 || task.done + outcomes.length >= task.total) finish(db, task, at)
      return true
    })
  }
  catch (error) {
    if (isBusy(error)) throw error
    // What it has come to stays; a task that cannot go on must not keep the others waiting.
    transact(context, () => endTask(db, openTask(db)!.id, 'failed', context.clock.now(), (error as Error).message))
    return true
  }
}

function finish(db: Database, { id, spec }: TaskRow, at: Instant): void {
  endTask(db, id, 'done', at)
  if (spec.kind === 'send') endOfSend(db, spec.sendId)
}

function doToOne(
  context: WorkspaceContext, task: TaskRow, spec: Exclude<TaskSpec, { kind: 'import' | 'merge-tags' | 'merge-lists' }>,
  { n, personId, before }: { n: number, personId: number, before: Done['before'] }, cause: Cause,
): Done {
  const { db } = context
  switch (spec.kind) {
    case 'send':
      return done(queueForOne(context, { sendId: spec.sendId, personId, isLeftOut: before !== null }, task.eventId, cause.at), before)
    case 'give-tag':
      if (hasTag(db, spec.tagId, personId)) return done('had-it')
      giveTag(db, personId, spec.tagId, cause)
      return done('given')
    case 'take-tag': {
      const holding = findHolding(db, spec.tagId, personId)
      if (!holding) return done('did-not-have-it')
      takeTag(db, personId, spec.tagId, cause)
      return done('taken', JSON.stringify(holding))
    }
    case 'put-on-list': {
      const was = membership(db, spec.listId, personId)
      if (was === 'joined') return done('was-on-it')
      if (was === 'left' && !wasTakenOff(db, personId, spec.listId)) return done('left-it-themselves')
      const kept = findMembership(db, spec.listId, personId)
      joinList(db, personId, spec.listId, cause)
      return done('put-on', kept ? JSON.stringify(kept) : null)
    }
    case 'take-off-list': {
      const kept = findMembership(db, spec.listId, personId)
      if (!kept || kept.leftAt !== null) return done('was-not-on-it')
      leaveList(db, personId, spec.listId, cause)
      return done('taken-off', JSON.stringify(kept))
    }
    case 'set-field': {
      const was = fieldOfPerson(db, spec.fieldId, personId)
      return setField(db, personId, spec.fieldId, spec.value, cause) ? done('set', was) : done('was-so-already')
    }
    case 'enrol': {
      const way = { courseId: spec.courseId, personId, at: cause.at, causeId: task.eventId }
      if (spec.comesIn?.kind === 'by-joining') return done(enrolSince(db, way))
      if (spec.comesIn?.kind === 'by-date') {
        return done(scheduleEntry(db, spec.courseId, personId, cause.at, task.eventId) ? 'will-come-in' : 'past-its-end')
      }
      const after = spec.comesIn?.kind === 'spread' ? Math.floor(n * spec.comesIn.days * DAY / task.total / MINUTE) * MINUTE : 0
      if (after === 0) return done(enrol(db, { ...way, ownAct: false }))
      setScheduledEntry(db, { courseId: spec.courseId, personId, dueAt: task.madeAt + after, occursOn: null, causeId: task.eventId })
      return done('will-come-in')
    }
    case 'go-on': {
      const row = visitsOf(db, spec.courseId, personId)[0]
      if (row?.status !== 'finished' || isGone(findPerson(db, personId)!.status)) return done('is-not-at-the-end')
      goOn(db, row, spec.toId, cause.at, task.eventId)
      return done('goes-on')
    }
    case 'erase':
      erase(context, personId, cause.at, task.eventId)
      return done('erased')
    case 'rule': {
      const rule = findRule(db, spec.ruleId)
      if (!rule) throw new Error('This house rule no longer exists.')
      const verdict = new Story(context).letAct(rule, taskAsEvent(task, personId, cause.at))
      return done(verdict === 'acts' ? 'acted' : verdict === 'does-not-fit' ? 'does-not-fit' : 'acted-before')
    }
    case 'undo': {
      const undone = findTask(db, spec.taskId)!
      // As it was before: that is nothing for rules to wake on.
      return done(
        writingAs(db, { quiet: 'wakes-nothing' }, () => undoOne(context, undone, personId, before, cause)) ? 'taken-back' : 'changed-since',
        before,
      )
    }
  }
}

/** Whoever the task comes to, it is the beginning of what the rule does to them. */
function taskAsEvent(task: TaskRow, personId: number, at: Instant): RawEvent {
  return {
    id: task.eventId, kind: 'task-begun', at, personId, causeId: null, ruleId: null, pageId: null, listId: null, tagId: null,
    tagFromId: null, courseId: null, outboxId: null,
    stepId: null, linkId: null, fieldId: null, offerId: null, segmentId: null, hookId: null, todoId: null, ownAct: false, quiet: null,
    detail: null,
  }
}

/** False if it is not as that task left it: then something else has changed it since, and it is left alone. */
function undoOne({ db }: WorkspaceContext, { spec, eventId }: TaskRow, personId: number, before: Done['before'], cause: Cause): boolean {
  const at = cause.at
  switch (spec.kind) {
    case 'give-tag': {
      const holding = findHolding(db, spec.tagId, personId)
      if (!holding || causeOf(db, holding.eventId) !== eventId) return false
      takeTag(db, personId, spec.tagId, cause)
      return true
    }
    case 'take-tag': {
      if (hasTag(db, spec.tagId, personId) || !findTag(db, spec.tagId)) return false
      // As it was, with its own time; courses that it starts do not begin by this.
      const { sinceAt, expiresAt } = JSON.parse(String(before)) as Holding
      const given = appendEvent(db, 'got-tag', at, { personId, tagId: spec.tagId, causeId: cause.causeId, detail: 'by-hand' })
      insertHolding(db, { tagId: spec.tagId, personId, sinceAt, expiresAt, eventId: given })
      return true
    }
    case 'put-on-list': {
      const now = findMembership(db, spec.listId, personId)
      if (!now || now.leftAt !== null || causeOf(db, now.eventId) !== eventId) return false
      leaveList(db, personId, spec.listId, cause)
      const kept = before === null ? null : JSON.parse(String(before)) as Membership
      if (!kept) forgetMembership(db, spec.listId, personId)
      return true
    }
    case 'take-off-list': {
      const now = findMembership(db, spec.listId, personId)
      if (!now || now.leftAt === null || !wasTakenOff(db, personId, spec.listId)) return false
      const kept = JSON.parse(String(before)) as Membership
      const joined = appendEvent(db, 'joined-list', at, { personId, listId: spec.listId, causeId: cause.causeId, detail: 'by-hand' })
      setJoined(db, spec.listId, personId, kept.joinedAt, joined)
      return true
    }
    case 'set-field':
      if (fieldOfPerson(db, spec.fieldId, personId) !== spec.value) return false
      setField(db, personId, spec.fieldId, before, cause)
      return true
    default:
      return false
  }
}
