/** What journeys through courses go by. */
import type { Moment } from '#core/audience/condition'
import { holds, type PersonFacts } from '#core/audience/meaning'
import { reevaluateAt } from '#core/audience/reevaluate'
import type { FieldValue } from '#core/people/field'
import type { Trigger } from '#core/rules/rule'
import { matches } from '#core/rules/waking'
import type { Awaited, Facts } from '#core/sequence/journey'
import { dateFieldsOf, type Program } from '#core/sequence/program'
import type { DateOf } from '#core/time/when'
import { isDate, type Instant, type LocalDate } from '#core/time/zone'
import type { Person } from '#core/views/people'
import { lazyFacts } from '#data/audience'
import type { Database } from '#data/connection'
import { programOfVersion, runningCourses } from '#data/courses'
import type { EnrolmentRow } from '#data/enrolments'
import { eventsOfKindSince } from '#data/events'
import { fieldOfPerson } from '#data/fields'
import { emailsOfOccasion } from '#data/outbox'
import { momentOf } from './moment'
import { ruleEventOf } from './ruleEvent'
import { workspaceFacts } from './workspaceFacts'

type Journey = Pick<EnrolmentRow, 'courseId' | 'visit' | 'occursOn'> & {
  program: Program
  /** What began it; left out before it has. */
  eventId?: number
}

/** What a journey goes by: of the person as they are now, and of what has happened to them. */
export function factsFor(db: Database, person: Pick<Person, 'id' | 'zone'>, journey: Journey): Facts {
  const about = <Answer>(at: Instant, ask: (facts: PersonFacts, moment: Moment) => Answer, unknown: Answer): Answer => {
    const facts = lazyFacts(db, person.id)
    return facts ? ask(facts, momentOf(db, at)) : unknown
  }
  return {
    ...workspaceFacts(db), personZone: person.zone,
    // In a course of dates its date is the return of it that this journey is about.
    dateOf: fieldId => journey.occursOn !== null && journey.program.dates?.fieldId === fieldId
      ? journey.occursOn
      : dateIn(fieldOfPerson(db, fieldId, person.id)),
    holds: (who, at) => about(at, (facts, moment) => holds(who, facts, moment), false),
    reevaluateAt: (who, at) => about(at, (facts, moment) => reevaluateAt(who, facts, moment), null),
    awaited: (until, since) => awaited(db, person.id, journey, until.when, since),
  }
}

/**
 * What is known of what a hold waits for. Of an email of this course it looks back to its sending; one that was not sent cannot be opened.
 * What brought them into the course happened before it.
 */
function awaited(
  db: Database, personId: number, { courseId, visit, eventId = 0 }: Pick<Journey, 'courseId' | 'visit' | 'eventId'>, when: Trigger,
  since: Instant,
): Awaited {
  let from = since
  const ownItem = when.stepId ?? (when.which?.kind === 'course' && when.which.ownerId === courseId ? when.which.itemId : null)
  if (ownItem) {
    const email = emailsOfOccasion(db, {
      kind: 'course', ownerId: courseId, itemId: ownItem, personId, occasionId: visit,
    }).find(({ isAgain }) => !isAgain)
    if (!email || email.status === 'held back' || email.status === 'withdrawn' || (email.status === 'failed' && email.goAt === null)) {
      return { kind: 'cannot' }
    }
    from = Math.min(since, email.handedOverAt ?? email.plannedAt)
  }
  const event = eventsOfKindSince(db, personId, when.kind, from).find(one =>
    one.id > eventId && (!when.stepId || one.courseId === courseId) && matches(when, ruleEventOf(db, one)))
  return event ? { kind: 'happened', at: event.at } : { kind: 'open' }
}

const dateIn = (value: FieldValue | undefined | null): LocalDate | null => typeof value === 'string' && isDate(value) ? value : null

/** What date fields say for people who stand alike: in a course of dates its date is the return that the journey is about. */
export const dateOfStanding = ({ dateOf, occursOn }: {
  dateOf: DateOf, occursOn: LocalDate | null,
}, { dates }: Pick<Program, 'dates'>): DateOf => fieldId => occursOn !== null && dates?.fieldId === fieldId ? occursOn : dateOf(fieldId)

/** The date fields by which running courses go. */
export const dateFieldsRunning = (db: Database): number[] =>
  [...new Set(runningCourses(db).flatMap(({ versionId }) => dateFieldsOf(programOfVersion(db, versionId))))]
