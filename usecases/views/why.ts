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
import { emailsOf, titleOfEmail, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import type { House } from '../house'
import { soldIn, standingWith } from '../inner/sold'
import { NotThere } from '../problem'

const TOLD = ['left-course', 'way-in-again', 'skipped-step', 'put-off', 'moved-in-course', 'stood-still', 'unsubscribed', 'left-list', 'bounced', 'consent-rule-changed']

/** The first sentence is the answer. */
export function whyView(house: House, personId: number, courseId: number, stepId: string): string[] {
  const { db } = house
  return readTogether(db, () => {
    const person = findPerson(db, personId)
    const course = findCourse(db, courseId)
    const running = course?.published ? emailsOf(course.published) : []
    const step = [...running, ...course ? emailsOf(course.draft) : []].find(one => one.id === stepId)
    if (!person || !course || !step) throw new NotThere('This email or this subscriber is not there any more.')
    // Someone may stand before a fork or in a hold: the place is that among all steps.
    const order = course?.published ? allSteps<DraftStep>(course.published.steps).map(({ id }) => id) : []
    const title = (id: string | null) => {
      const ahead = order.slice(order.indexOf(id ?? '')).map(one => running.find(email => email.id === one)).find(email => email !== undefined)
      return ahead ? titleOfEmail(ahead) : 'the end'
    }
    const place = (id: string | null) => id === null ? -1 : order.indexOf(id)
    const { zone } = workspaceOf(db)
    const listId = course.listId ?? course.draft.listId
    const pause = pauseOf(db, personId)
    return whyOrWhyNot({
      courseName: course.name,
      listName: listId === null ? null : findList(db, listId)?.name ?? null,
      emailTitle: titleOfEmail(step),
      emails: emailsOfPerson(db, personId).filter(row => row.kind === 'course' && row.thingId === courseId && row.stepId === stepId),
      journeys: visitsOf(db, courseId, personId).map(({ status, joinedAt, endedAt, stepId: before, dueAt, pausedAt }) => ({
        status, joinedAt, endedAt, dueAt, standsStill: pausedAt !== null, standsBefore: before === null ? null : title(before), isAhead: place(stepId) >= place(before),
      })),
      told: eventsOfPerson(db, personId).filter(event => TOLD.includes(event.kind) && (event.courseId === null || event.courseId === courseId)).slice(0, 4)
        .map(event => ({ at: event.at, words: sayEvent(event) })),
      courseRuns: course.versionId !== null,
      emailRuns: place(stepId) >= 0,
      waysIn: (course.published ?? course.draft).wayInTagIds.map(tagId => findTag(db, tagId)?.name).filter(name => name !== undefined).map(name => `“${name}”`),
      waitsBecause: course.stoppedAt !== null ? 'you stopped the course' : pause ? `they paused their emails until ${sayMoment(pause.untilAt, zone)}` : person.status === 'resting' ? 'they are resting' : null,
      heldBackNow: heldBackFor({
        asksToConfirm: false, isReceipt: false, ...standingWith(db, personId, step.content.sellsNothing ? [] : soldIn(house, step.content)),
        // What only makes it wait holds nothing back.
        paused: false, status: person.status === 'resting' ? 'active' : person.status,
        consentMissing: person.consentAt === null && needsConsent(person.country, consentRule(db)),
        list: listId === null ? 'joined' : membership(db, listId, personId), listTakesEverybody: listId === null || findList(db, listId)?.takesEverybody === 1,
        leftCourse: false, askedFor: false, gotItAlready: false, tooLate: false,
      }),
    }, at => sayMoment(at, zone))
  })
}
