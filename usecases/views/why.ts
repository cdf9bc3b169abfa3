/** "Why did they (not) get it?", for one person and one email. */
import { sayEvent } from '#core/events'
import { needsConsent } from '#core/people/country'
import { heldBackFor } from '#core/people/heldback'
import { whyOrWhyNot } from '#core/people/why'
import { sayMoment } from '#core/time/say'
import { readTogether } from '#data/connection'
import { pauseOf } from '#data/choices'
import { findCourse } from '#data/courses'
import { visitsOf } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { findList, findTag, membership } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { consentRule, workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { soldIn, standingWith } from '../inner/sold'
import { NotThere } from '../problem'

const TOLD = ['left-course', 'way-in-again', 'skipped-step', 'unsubscribed', 'left-list', 'bounced', 'consent-rule-changed']

/** The first sentence is the answer. */
export function whyView(house: House, personId: number, courseId: number, stepId: string): string[] {
  const { db } = house
  return readTogether(db, () => {
    const person = findPerson(db, personId)
    const course = findCourse(db, courseId)
    const running = course?.published?.steps ?? []
    const step = [...running, ...course?.draft.steps ?? []].find(one => one.id === stepId)
    if (!person || !course || !step) throw new NotThere('This email or this subscriber is not there any more.')
    const title = (id: string | null) => running.find(one => one.id === id)?.content.workingTitle || 'an email without a title'
    const place = (id: string | null) => running.findIndex(one => one.id === id)
    const { zone } = workspaceOf(db)
    const listId = course.listId ?? course.draft.listId
    return whyOrWhyNot({
      courseName: course.name,
      emailTitle: step.content.workingTitle || 'an email without a title',
      emails: emailsOfPerson(db, personId).filter(row => row.kind === 'course' && row.thingId === courseId && row.stepId === stepId),
      journeys: visitsOf(db, courseId, personId).map(({ status, joinedAt, endedAt, stepId: before, dueAt }) => ({
        status, joinedAt, endedAt, dueAt, standsBefore: before === null ? null : title(before), isAhead: place(stepId) >= place(before),
      })),
      told: eventsOfPerson(db, personId).filter(event => TOLD.includes(event.kind) && (event.courseId === null || event.courseId === courseId)).slice(0, 4)
        .map(event => ({ at: event.at, words: sayEvent(event) })),
      courseRuns: course.versionId !== null,
      emailRuns: place(stepId) >= 0,
      waysIn: (course.published ?? course.draft).wayInTagIds.map(tagId => findTag(db, tagId)?.name).filter(name => name !== undefined).map(name => `“${name}”`),
      heldBackNow: heldBackFor({
        asksToConfirm: false, isReceipt: false, ...standingWith(db, personId, step.content.sellsNothing ? [] : soldIn(house, step.content)),
        paused: pauseOf(db, personId) !== null,
        status: person.status, consentMissing: person.consentAt === null && needsConsent(person.country, consentRule(db)),
        list: listId === null ? 'joined' : membership(db, listId, personId), listTakesEverybody: listId === null || findList(db, listId)?.takesEverybody === 1,
        leftCourse: false, askedFor: false,
      }),
    }, at => sayMoment(at, zone))
  })
}
