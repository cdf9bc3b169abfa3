/** "Why did they (not) get it?", for one person and one email. */
import { sayEvent } from '#core/events'
import { heldBackFor } from '#core/sending/checks'
import { kindOf, type SendOf } from '#core/sending/kinds'
import { whyOfOne, whyOrWhyNot } from '#core/people/why'
import { sayMoment } from '#core/time/say'
import type { ZoneName } from '#core/time/zone'
import type { Person } from '#core/views/people'
import { readTogether, type Database } from '#data/connection'
import { pauseOf } from '#data/choices'
import { findCourse } from '#data/courses'
import { visitsOf } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { findList, findTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { findSend, type SendRow } from '#data/sends'
import { workspaceOf } from '#data/workspace'
import { emailsOf, titleOfEmail, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import type { WorkspaceContext } from '../context'
import { audienceFactsOf, checkFactsOf } from '../inner/checkFacts'
import { keyOfSend } from '../inner/sendNames'
import { soldBy, soldIn } from '../inner/sold'
import { NotThere } from '../problem'

const TOLD = [
  'left-course', 'way-in-again', 'skipped-step', 'put-off', 'moved-in-course', 'stood-still', 'unsubscribed', 'left-list', 'bounced',
  'consent-rule-changed',
]

/** The first sentence is the answer. */
export function whyView(context: WorkspaceContext, personId: number, of: SendOf): string[] {
  return kindOf(of.kind).owner === 'course' ? whyOfStep(context, personId, of.ownerId, of.itemId) : whyOfSend(context, personId, of)
}

/** Of a send whose emails come of what somebody did, or that goes to an audience. */
function whyOfSend(context: WorkspaceContext, personId: number, of: SendOf): string[] {
  const { db } = context
  return readTogether(db, () => {
    const person = findPerson(db, personId)
    const send = findSend(db, of)
    if (!person || !send) throw new NotThere('This email or this subscriber no longer exists.')
    const { zone } = workspaceOf(db)
    const emails = emailsOfPerson(db, personId).filter(email => keyOfSend(email) === keyOfSend(of))
    const listId = emails[0]?.listId ?? send.listId
    return whyOfOne({
      emails, listName: listId === null ? null : findList(db, listId)?.name ?? null, waitsBecause: waitsBecause(db, person, zone),
      notDecided: send.audience === null ? 'Nothing they did asked for it.' : notInAudience(send),
      heldBackNow: emails.length === 0 && send.audience === null ? null : heldBackFor(kindOf(of.kind).checks, {
        ...checkFactsOf(db, person, {
          listId, askedFor: emails[0]?.askedFor === 1, sold: emails[0] ? soldBy(context, emails[0].messageId) : [],
        }),
        ...audienceFactsOf(db, send.audience, person, context.clock.now()), ...onlyWaiting(person),
      }),
    }, at => sayMoment(at, zone))
  })
}

const notInAudience = ({ state }: SendRow): string => state === 'scheduled'
  ? 'Not yet: who gets it is decided when sending begins.' : 'They were not in the audience when sending began.'

function waitsBecause(db: Database, { id, status }: Pick<Person, 'id' | 'status'>, zone: ZoneName): string | null {
  const pause = pauseOf(db, id)
  return pause ? `they paused their emails until ${sayMoment(pause.untilAt, zone)}` : status === 'resting' ? 'they are resting' : null
}

/** What only makes it wait holds nothing back. */
const onlyWaiting = ({ status }: Pick<Person, 'status'>) => ({ paused: false, status: status === 'resting' ? 'active' as const : status })

function whyOfStep(context: WorkspaceContext, personId: number, courseId: number, stepId: string): string[] {
  const { db } = context
  return readTogether(db, () => {
    const person = findPerson(db, personId)
    const course = findCourse(db, courseId)
    const running = course?.published ? emailsOf(course.published) : []
    const step = [...running, ...course ? emailsOf(course.draft) : []].find(one => one.id === stepId)
    if (!person || !course || !step) throw new NotThere('This email or this subscriber no longer exists.')
    // Someone may stand before a fork or in a hold: the place is that among all steps.
    const order = course?.published ? allSteps<DraftStep>(course.published.steps).map(({ id }) => id) : []
    const title = (id: string | null) => {
      const ahead = order.slice(order.indexOf(id ?? '')).map(one => running.find(email => email.id === one))
        .find(email => email !== undefined)
      return ahead ? titleOfEmail(ahead) : 'the end'
    }
    const place = (id: string | null) => id === null ? -1 : order.indexOf(id)
    const { zone } = workspaceOf(db)
    const listId = course.listId ?? course.draft.listId
    return whyOrWhyNot({
      courseName: course.name,
      listName: listId === null ? null : findList(db, listId)?.name ?? null,
      emailTitle: titleOfEmail(step),
      emails: emailsOfPerson(db, personId).filter(row => row.kind === 'course' && row.ownerId === courseId && row.itemId === stepId),
      journeys: visitsOf(db, courseId, personId).map(({ status, joinedAt, endedAt, stepId: before, dueAt, pausedAt }) => ({
        status, joinedAt, endedAt, dueAt, standsStill: pausedAt !== null, standsBefore: before === null ? null : title(before),
        isAhead: place(stepId) >= place(before),
      })),
      told: eventsOfPerson(db, personId).filter(event =>
        TOLD.includes(event.kind) && (event.courseId === null || event.courseId === courseId)).slice(0, 4)
        .map(event => ({ at: event.at, words: sayEvent(event) })),
      courseRuns: course.versionId !== null,
      emailRuns: place(stepId) >= 0,
      waysIn: (course.published ?? course.draft).wayInTagIds.map(tagId => findTag(db, tagId)?.name).filter(name => name !== undefined)
        .map(name => `“${name}”`),
      waitsBecause: course.stoppedAt !== null ? 'you stopped the course' : waitsBecause(db, person, zone),
      heldBackNow: heldBackFor(kindOf('course').checks, {
        ...checkFactsOf(db, person, { listId, askedFor: false, sold: step.content.sellsNothing ? [] : soldIn(context, step.content) }),
        ...onlyWaiting(person),
      }),
    }, at => sayMoment(at, zone))
  })
}
