/** What follows from the sending of a course's email, and from how it is read. */
import { hasComeTo, isAbsence, placesOf, type EmailStep, type Reaction } from '#core/sequence/program'
import { UNIT_MS } from '#core/time/when'
import { SECOND, type Instant } from '#core/time/zone'
import { occasionOf, SECOND_SENDING } from '#core/sending/occasion'
import type { Database } from '#data/connection'
import { programOfVersion, runningOf } from '#data/courses'
import { dueTimeouts, endTimeout, findEnrolment, insertTimeout, type EnrolmentRow, type TimeoutRow } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { linksOfMessage } from '#data/messages'
import { emailsOfOccasion, findEmail, insertEmail, type OutboxRow } from '#data/outbox'
import { clicksOfEmail } from '#data/reading'
import { aboutEmail } from '../aboutEmail'
import { doAction } from './actions'
import { moveTo } from '../journeys/enrolments'

/** A click is judged for so long before it counts, at its own time: until then nobody is said not to have clicked. */
const JUDGING = 31 * SECOND

type Mail = Pick<OutboxRow, 'id' | 'kind' | 'ownerId' | 'personId' | 'itemId' | 'occasionId' | 'isAgain' | 'enrolmentId' | 'messageId'
  | 'listId'>

/** The step as it runs now: what was published since counts. */
function stepOf(db: Database, email: Mail): { step: EmailStep, enrolment: EnrolmentRow } | null {
  const enrolment = email.kind === 'course' && email.enrolmentId !== null ? findEnrolment(db, email.enrolmentId) : undefined
  const step = enrolment
    && placesOf(programOfVersion(db, runningOf(db, enrolment.courseId)!.versionId ?? enrolment.versionId)).get(email.itemId)?.step
  return step?.kind === 'email' ? { step, enrolment: enrolment! } : null
}

export const stepOfEmail = (db: Database, email: Mail): EmailStep | null => stepOf(db, email)?.step ?? null

/** The email left: what goes with that is done, and what it waits for from now on is written down. A second sending waits for nothing. */
export function reactToSending(db: Database, email: Mail, at: Instant, causeId: number): void {
  if (email.isAgain) return
  for (const reaction of stepOf(db, email)?.step.reactions ?? []) {
    if (reaction.on === 'sent') react(db, email, reaction, at, causeId)
    else if (isAbsence(reaction.on)) {
      const limitAt = at + reaction.within!.count * UNIT_MS[reaction.within!.unit]
      insertTimeout(db, { outboxId: email.id, reaction: reaction.id, limitAt, dueAt: limitAt + JUDGING })
    }
  }
}

/** A reader opened it, for the first time: of an email that went twice, either of them. */
export function reactToOpen(db: Database, email: Mail, at: Instant, causeId: number): void {
  if (emailsOfOccasion(db, email).some(({ id, openedAt }) => id !== email.id && openedAt !== null)) return
  for (const reaction of stepOf(db, email)?.step.reactions ?? []) if (reaction.on === 'opened') react(db, email, reaction, at, causeId)
}

/** A reader followed a link. `before`: the addresses of this email that they had followed already. */
export function reactToClick(db: Database, email: Mail, url: string, before: readonly string[], at: Instant, causeId: number): void {
  for (const reaction of stepOf(db, email)?.step.reactions ?? []) {
    if (reaction.on !== 'clicked') continue
    const isFirst = reaction.url === undefined ? before.length === 0 : reaction.url === url && !before.includes(url)
    if (isFirst) react(db, email, reaction, at, causeId)
  }
}

/** The addresses of an email, in whichever of its sendings, that its reader has followed so far. */
export function followedIn(db: Database, email: Mail): { url: string, at: Instant }[] {
  return emailsOfOccasion(db, email).flatMap(({ id, messageId }) => {
    const links = linksOfMessage(db, messageId)
    return clicksOfEmail(db, id).filter(({ judged }) => judged === 'reader')
      .map(({ linkN, at }) => ({ url: links.find(({ n }) => n === linkN)?.url ?? '', at }))
  })
}

/** Looks at what was waited for and did not happen. Returns how many were looked at. */
export function settleTimeouts(db: Database, at: Instant, limit: number): number {
  const rows = dueTimeouts(db, at, limit)
  for (const row of rows) {
    endTimeout(db, row.id, at)
    const email = findEmail(db, row.outboxId)!
    const reaction = stepOf(db, email)?.step.reactions?.find(({ id }) => id === row.reaction)
    if (!reaction || !isAbsence(reaction.on) || happenedInTime(db, email, reaction, row)) continue
    const causeId = appendEvent(db, reaction.on, row.limitAt, { ...aboutEmail(email), stepId: email.itemId })
    react(db, email, reaction, row.limitAt, causeId)
  }
  return rows.length
}

/** Exactly at the limit counts as in time. Who clicked has read it, too. */
function happenedInTime(db: Database, email: Mail, { on, url }: Reaction, { limitAt }: TimeoutRow): boolean {
  const within = (at: Instant | null) => at !== null && at <= limitAt
  if (url !== undefined) return followedIn(db, email).some(click => click.url === url && within(click.at))
  return emailsOfOccasion(db, email).some(({ openedAt, clickedAt }) => within(clickedAt) || (on === 'not-opened' && within(openedAt)))
}

function react(db: Database, email: Mail, { then, again, skipToId, id }: Reaction, at: Instant, causeId: number): void {
  const { personId, ownerId: courseId } = email
  for (const action of then) doAction(db, personId, action, { at, causeId, ruleId: null, courseId })
  // The unique key of the outbox lets there be one second sending.
  if (again?.messageId && stepOf(db, email)?.step.reactions?.find(one => one.again)?.id === id) {
    insertEmail(db, {
      kind: 'course', ownerId: courseId, personId, itemId: email.itemId, occasion: occasionOf(email.occasionId, SECOND_SENDING),
      messageId: again.messageId, enrolmentId: email.enrolmentId, listId: email.listId, askedFor: 0, causeId, plannedAt: at,
    })
  }
  // What was done may have ended the journey.
  const now = stepOf(db, email)
  if (!skipToId || !now || now.enrolment.status !== 'open') return
  const program = programOfVersion(db, now.enrolment.versionId)
  if (placesOf(program).has(skipToId) && !hasComeTo(program, now.enrolment.stepId, skipToId)) {
    moveTo(db, now.enrolment, skipToId, at, causeId, 'by-reaction')
  }
}
