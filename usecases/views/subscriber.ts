/** Everything known about one subscriber. */
import type { SubscriberView } from '#core/views/people'
import { causesOutside, eventsOfPerson } from '#data/events'
import { readTogether } from '#data/connection'
import { findCourse } from '#data/courses'
import { enrolmentsOfPerson } from '#data/enrolments'
import { emailsOfPerson } from '#data/outbox'
import { consentsOfPerson, findPerson, listsOfPerson, tagsOfPerson } from '#data/people'
import type { House } from '../house'
import { NotThere } from '../problem'

export function subscriberView(house: House, id: number): SubscriberView {
  const { db } = house
  return readTogether(db, () => {
    const person = findPerson(db, id)
    if (!person) throw new NotThere('This subscriber is not there any more.')
    return {
      person,
      lists: listsOfPerson(db, id),
      tags: tagsOfPerson(db, id),
      consents: consentsOfPerson(db, id),
      courses: enrolmentsOfPerson(db, id).map((row) => {
        const course = findCourse(db, row.courseId)!
        const next = course.published?.steps.find(step => step.id === row.stepId)
        return { id: course.id, name: course.name, status: row.status, joinedAt: row.joinedAt, endedAt: row.endedAt, nextTitle: next?.content.workingTitle ?? null, nextAt: row.dueAt }
      }),
      emails: emailsOfPerson(db, id).map(row => ({
        id: row.id, title: row.workingTitle, courseName: row.courseName, plannedAt: row.plannedAt, status: row.status, reason: row.reason,
        handedOverAt: row.handedOverAt, openedAt: row.openedAt, clickedAt: row.clickedAt,
      })),
      events: eventsOfPerson(db, id),
      causes: causesOutside(db, id),
    }
  })
}
