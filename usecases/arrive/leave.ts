/** Someone leaves: by the link of an email, or by their mail program's one press (RFC 8058). */
import { write } from '#data/connection'
import { findCourse } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { findEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import { standsFor } from '#data/markEnds'
import { listsOfPerson } from '#data/marks'
import { markLeft } from '#data/reading'
import { isGone } from '#core/people/status'
import type { House } from '../house'
import { waitingOfPerson } from '#data/confirmations'
import { aboutEmail } from '../inner/aboutEmail'
import { withdrawAskings } from '../inner/askings'
import { endEnrolments } from '../inner/enrolments'
import { changeStatus, leaveList } from '../inner/marks'
import { NotThere } from '../problem'

export type Leaving = { what: 'course' } | { what: 'list', listId: number } | { what: 'everything' }

/** `token` is the signed one of an email's own address; it says whose email it was. */
export function readChoicesToken(house: House, token: string): number {
  const what = house.signer.read('choices', token)
  if (what === null) throw new NotThere('This address is not one of ours, or it was cut off on the way. Please use the link in the email itself.')
  return Number(what)
}

/** Doing it twice is as good as once. */
export function leave(house: House, outboxId: number, leaving: Leaving): void {
  const { db } = house
  write(db, () => {
    const email = findEmail(db, outboxId)
    if (!email) throw new NotThere('This email is not known any more.')
    const at = house.clock.now()
    const { personId } = email
    const from = email.sentEventId ?? email.causeId
    const about = { ...aboutEmail(email), causeId: from }
    if (leaving.what === 'everything') {
      const gone = isGone(findPerson(db, personId)!.status)
      // Who had left and opted in anew since, without saying yes yet, takes that back.
      if (gone && waitingOfPerson(db, personId).length === 0 && findPerson(db, personId)!.status !== 'bounced') return
      const causeId = appendEvent(db, 'unsubscribed', at, about)
      markLeft(db, outboxId, at)
      withdrawAskings(db, personId, at, causeId)
      changeStatus(db, personId, 'unsubscribed', { at, causeId, ownAct: true })
    }
    else if (leaving.what === 'list') {
      if (standsFor(db, 'lists', leaving.listId) === null) throw new NotThere('This list is not there any more.')
      markLeft(db, outboxId, at)
      leaveList(db, personId, leaving.listId, { at, causeId: from, ownAct: true })
    }
    else {
      if (email.kind !== 'course') throw new NotThere('This email is not of a course.')
      const ended = endEnrolments(db, personId, at, from, 'own-choice', row => row.courseId === email.thingId)
      if (ended > 0) markLeft(db, outboxId, at)
    }
  })
}

export interface Choices {
  address: string
  gone: boolean
  course: { name: string, inside: boolean } | null
  lists: { id: number, name: string, description: string, joined: boolean }[]
}

/** What the choices page shows; reading it changes nothing. */
export function choicesOf(house: House, outboxId: number): Choices {
  const { db } = house
  const email = findEmail(db, outboxId)
  const person = email && findPerson(db, email.personId)
  if (!email || !person) throw new NotThere('This email is not known any more.')
  const course = email.enrolmentId === null ? undefined : findCourse(db, email.thingId)
  return {
    address: person.address,
    gone: isGone(person.status),
    course: course ? { name: course.name, inside: findEnrolment(db, email.enrolmentId!)?.status === 'open' } : null,
    lists: listsOfPerson(db, person.id).map(list => ({ id: list.id, name: list.publicName, description: list.description, joined: list.leftAt === null })),
  }
}
