/** What following a link does to a reader, and taking it back. */
import type { Action } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import { reopenEnrolment, stoodThere, type StoodThere } from '#data/choices'
import type { Database } from '#data/connection'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent, causeOf, writingAs } from '#data/events'
import { fieldOfPerson } from '#data/fields'
import { insertLinkActs, linkActsOf, markLinkActsUndone, type LinkAct, type LinkActs } from '#data/links'
import { findHolding, membership } from '#data/marks'
import { deleteNoMore } from '#data/purchases'
import { doAction } from './actions'
import { endEnrolments } from '../journeys/enrolments'
import { setField } from '../facts/fieldValue'
import { giveTag, joinList, leaveList, takeTag } from '../facts/marks'
import { givePoints } from '../facts/points'
import { leaveWaiting, missingOfWaiting } from '../facts/waits'

/** Once for an event of a click. In the caller's transaction. `isAnswer`: it is kept that it was chosen, though nothing comes of it. */
export function doFollowed(
  db: Database, { personId, linkId, label, does, isAnswer = false }: {
    personId: number, linkId: number, label: string, does: readonly Action[], isAnswer?: boolean
  },
  { at, eventId }: { at: Instant, eventId: number },
): void {
  if ((does.length === 0 && !isAnswer) || linkActsOf(db, eventId)) return
  const acts = does.map((action): LinkAct => ({
    action, before: beforeOf(db, personId, action), outcome: doAction(db, personId, action, { at, causeId: eventId, ruleId: null }),
  }))
  insertLinkActs(db, { eventId, personId, linkId, label, at, acts })
}

/** How it stood, as far as taking back needs it. */
function beforeOf(db: Database, personId: number, action: Action): unknown {
  switch (action.kind) {
    case 'set-field': return fieldOfPerson(db, action.fieldId, personId)
    case 'leave-course': return openEnrolmentsOfPerson(db, personId).filter(({ courseId }) => courseId === action.courseId).map(stoodThere)
    case 'wait': return missingOfWaiting(db, personId, action.offerId)
    default: return null
  }
}

/**
 * As it was before the first of these answers to one question, the oldest first: tags that they gave go, tags that they took come back;
 * what else has changed since stays.
 */
export function undoAnswers(db: Database, answers: readonly LinkActs[], at: Instant): void {
  const last = answers.at(-1)
  if (!last) return
  const { personId } = last
  const events = new Set(answers.map(({ eventId }) => eventId))
  for (const eventId of events) markLinkActsUndone(db, eventId, at)
  const causeId = appendEvent(db, 'took-back', at, { personId, causeId: last.eventId })
  const cause = { at, causeId, ownAct: true }
  const first = new Map<number, LinkAct['outcome']>()
  for (const { action, outcome } of answers.flatMap(({ acts }) => acts)) {
    if ((action.kind === 'give-tag' && outcome === 'given') || (action.kind === 'take-tag' && outcome === 'taken')) {
      if (!first.has(action.tagId)) first.set(action.tagId, outcome)
    }
  }
  writingAs(db, { quiet: 'wakes-nothing' }, () => {
    for (const [tagId, outcome] of first) {
      const holding = findHolding(db, tagId, personId)
      if (outcome === 'taken' && !holding) giveTag(db, personId, tagId, cause)
      const came = holding ? causeOf(db, holding.eventId) : null
      if (outcome === 'given' && came !== null && events.has(came)) takeTag(db, personId, tagId, cause)
    }
  })
}

/** As it was before the click, where nothing else has changed it since. What house rules did because of it stays. */
export function undoFollowed(db: Database, { eventId, personId, acts }: LinkActs, at: Instant): void {
  markLinkActsUndone(db, eventId, at)
  const causeId = appendEvent(db, 'took-back', at, { personId, causeId: eventId })
  const cause = { at, causeId, ownAct: true }
  // It is as if it had not been: nothing for rules to wake on.
  writingAs(db, { quiet: 'wakes-nothing' }, () => {
    for (const { action, outcome, before } of [...acts].reverse()) {
      switch (action.kind) {
        case 'give-tag': {
          const holding = findHolding(db, action.tagId, personId)
          if (outcome === 'given' && holding && causeOf(db, holding.eventId) === eventId) takeTag(db, personId, action.tagId, cause)
          break
        }
        case 'take-tag':
          if (outcome === 'taken') giveTag(db, personId, action.tagId, cause)
          break
        case 'join-list':
          if (outcome === 'put-on') leaveList(db, personId, action.listId, cause)
          break
        case 'leave-list':
          if (outcome === 'taken-off' && membership(db, action.listId, personId) === 'left') joinList(db, personId, action.listId, cause)
          break
        case 'set-field':
          if (outcome === 'set' && (action.today || fieldOfPerson(db, action.fieldId, personId) === action.value)) {
            setField(db, personId, action.fieldId, before as string | number | null, cause)
          }
          break
        case 'score':
          givePoints(db, personId, -action.points, { at, causeId, ruleId: null })
          break
        case 'enrol':
          if (outcome === 'enrolled') endEnrolments(db, personId, at, causeId, 'own-choice', ({ courseId }) => courseId === action.courseId)
          break
        case 'leave-course':
          for (const stood of before as StoodThere[]) {
            if (reopenEnrolment(db, stood)) appendEvent(db, 'back-in-course', at, { personId, courseId: action.courseId, causeId })
          }
          break
        case 'wait':
          if (outcome === 'waits') leaveWaiting(db, personId, action.offerId, before as ReturnType<typeof missingOfWaiting>, cause)
          break
        case 'no-more':
          if (outcome === 'said-no-more' && deleteNoMore(db, action.offerId, personId)) {
            appendEvent(db, 'took-back-no-more', at, { personId, offerId: action.offerId, causeId })
          }
          break
      }
    }
  })
}
