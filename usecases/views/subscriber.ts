/** Everything known about one subscriber. */
import { needsConsent } from '#core/people/country'
import { TURN_WORDS, type WaitsForTurn } from '#core/sending/reasons'
import type { EmailOfPerson, SubscriberView } from '#core/views/people'
import { unreachableSince } from '#data/carrier'
import { causesOutside, eventsOfPerson } from '#data/events'
import { readTogether } from '#data/connection'
import { allCourses, courseNameEver, findCourse } from '#data/courses'
import { enrolmentsOfPerson } from '#data/enrolments'
import { emailsOfPerson, type OutboxRow } from '#data/outbox'
import { fieldsOfPerson } from '#data/fields'
import { findPerson, nameInMail } from '#data/people'
import { whoPassedOn } from '#data/pages'
import { formerAddresses } from '#data/sameness'
import { offerNames } from '#data/offers'
import { saidNoMore } from '#data/purchases'
import { waitsOfPerson } from '#data/waits'
import { segmentsOfPerson } from '#data/segments'
import { consentRule } from '#data/workspace'
import { listsOfPerson, tagsOfPerson } from '#data/marks'
import { consentsOfPerson } from '#data/consents'
import { sayTouch } from '#core/page/touch'
import { emailsOf, titleOfEmail } from '#core/sequence/draft'
import type { Database } from '#data/connection'
import { todosOfPerson } from '#data/todos'
import { touchesOfPerson } from '#data/sources'
import type { WorkspaceContext } from '../context'
import { sendNamer } from '../inner/sendNames'
import { sourceNames } from '../inner/names'
import { scoreOfPerson } from '../settings/score'
import { purchasesView } from './purchases'
import { NotThere } from '../problem'

export function subscriberView(context: WorkspaceContext, id: number): SubscriberView {
  const { db } = context
  return readTogether(db, () => {
    const person = findPerson(db, id)
    if (!person) throw new NotThere('This subscriber no longer exists.')
    const names = new Map(offerNames(db).map(({ id: offerId, name }) => [offerId, name]))
    /** Nothing of an offer that was deleted. */
    const nameOf = (offerId: number) => names.has(offerId) ? [names.get(offerId)!] : []
    const named = sendNamer(db)
    return {
      person,
      nameInMail: nameInMail(db, id),
      unreachableSince: unreachableSince(db, id),
      brought: broughtBy(db, id),
      passedBy: whoPassedOn(db, id),
      formerAddresses: formerAddresses(db, id),
      askable: allCourses(db).flatMap(({ id: courseId, name: courseName, published, draft }) => [
        ...new Map([draft, published].flatMap(one => one ? emailsOf(one) : []).map(step => [step.id, step])).values(),
      ]
        .map(step => ({ courseId, courseName, stepId: step.id, title: titleOfEmail(step) }))),
      lists: listsOfPerson(db, id),
      tags: tagsOfPerson(db, id),
      fields: fieldsOfPerson(db, id),
      consents: consentsOfPerson(db, id),
      purchases: purchasesView(context, id),
      noMore: saidNoMore(db, id).flatMap(({ offerId, at }) => nameOf(offerId).map(name => ({ offerId, name, at }))),
      waits: waitsOfPerson(db, id).flatMap(({ offerId, since, place }) => nameOf(offerId).map(name => ({ offerId, name, since, place }))),
      segments: segmentsOfPerson(db, id),
      score: scoreOfPerson(db, id, context.clock.now()),
      todos: todosOfPerson(db, id).map(({ id: todoId, text, helper, dueOn, doneAt }) => ({ id: todoId, text, helper, dueOn, doneAt })),
      needsConsent: needsConsent(person.country, consentRule(db)),
      courses: enrolmentsOfPerson(db, id).map((row) => {
        const course = findCourse(db, row.courseId)
        const next = course?.published && emailsOf(course.published).find(step => step.id === row.stepId)
        return {
          id: row.courseId, name: course?.name ?? courseNameEver(db, row.courseId), isThere: course !== undefined,
          stopped: course ? course.stoppedAt !== null : false,
          status: row.status, joinedAt: row.joinedAt, endedAt: row.endedAt, nextTitle: next ? titleOfEmail(next) : null,
          nextAt: row.dueAt,
        }
      }),
      emails: emailsOfPerson(db, id).map(row => ({
        id: row.id, ownerId: row.ownerId, itemId: row.itemId, title: row.workingTitle,
        kind: row.kind, of: named(row).of, listName: row.listName, plannedAt: row.plannedAt, status: row.status, reason: row.reason,
        handedOverAt: row.handedOverAt, openedAt: row.openedAt, clickedAt: row.clickedAt, turn: turnOf(row),
      })),
      events: eventsOfPerson(db, id),
      causes: causesOutside(db, id),
    }
  })
}

const turnOf = ({ status, reason, turnAt }: OutboxRow): EmailOfPerson['turn'] =>
  status === 'queued' && turnAt !== null && reason !== null && reason in TURN_WORDS ? { at: turnAt, why: reason as WaitsForTurn } : null

function broughtBy(db: Database, personId: number): SubscriberView['brought'] {
  const { first, latest } = touchesOfPerson(db, personId)
  const nameOf = sourceNames(db)
  return first && latest ? { first: sayTouch(first, nameOf), latest: sayTouch(latest, nameOf) } : null
}
