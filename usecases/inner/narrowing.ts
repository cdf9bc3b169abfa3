/** Whom a table of people shows, as a condition. */
import { EVERYBODY, type Condition, type EmailFate } from '#core/audience/condition'
import { standingConditions } from '#core/audience/heldBack'
import type { Status } from '#core/people/status'
import type { HeldBackReason } from '#core/sending/reasons'
import type { CourseNumber, StepNumber } from '#core/views/course'
import { findBroadcast } from '#data/broadcasts'
import type { OutboxTrouble } from '#data/outbox'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'
import { broadcastPeople, type PeopleBehind } from './broadcastPeople'

/** Whom the table shows. What is null narrows nothing. */
export interface Narrowing {
  /** Any condition. The others are short ways of saying one, for the numbers of other screens. */
  where: Condition | null
  status: Status | null
  tagId: number | null
  listId: number | null
  segmentId: number | null
  /** Who opted in on this page. */
  pageId: number | null
  /** How people stand with a whole course. */
  standing: { courseId: number, is: CourseNumber } | null
  /** The people behind a number of a course's step. */
  behind: { courseId: number, stepId: string, number: StepNumber } | null
  /** A problem with one of their emails: waiting again now, or any other within the last seven days. */
  trouble: OutboxTrouble | null
  /** For whom this is the first reason why they could not be sent anything now; or whom nothing holds back. */
  heldBack: HeldBackReason | 'nothing' | null
  /** The people behind a number of a broadcast that is not sent yet: {@link broadcastPeople}. */
  ofBroadcast: { id: number, key: string } | null
}

export const NOT_NARROWED: Narrowing = {
  where: null, status: null, tagId: null, listId: null, segmentId: null, pageId: null, standing: null, behind: null, trouble: null,
  heldBack: null, ofBroadcast: null,
}

const NUMBERS: Record<Exclude<StepNumber, 'waiting'>, EmailFate> = {
  sent: 'sent', heldBack: 'held-back', opened: 'opened', clicked: 'clicked', unsubscribed: 'left-by',
}
const TROUBLES: Record<OutboxTrouble, EmailFate> = {
  givenUp: 'given-up', heldBack: 'held-back', waitingAgain: 'waiting-again', repeated: 'maybe-twice',
}

/** Throws a {@link NotThere} where a broadcast, or a number of it, is not there. */
export function conditionOf(context: Pick<WorkspaceContext, 'db' | 'baseUrl'>, {
  where, status, behind, standing, trouble, tagId, listId, segmentId, pageId, heldBack, ofBroadcast,
}: Narrowing): Condition {
  const of: Condition[] = []
  if (status) of.push({ kind: 'status', is: [status] })
  if (tagId !== null) of.push({ kind: 'tag', tagId, since: null })
  if (listId !== null) of.push({ kind: 'list', listId, is: 'joined' })
  if (segmentId !== null) of.push({ kind: 'segment', segmentId })
  if (pageId !== null) of.push({ kind: 'opted-in', pageId, within: null })
  if (behind?.number === 'waiting') of.push({ kind: 'course', courseId: behind.courseId, is: 'inside', stepId: behind.stepId })
  else if (behind) of.push({
    kind: 'email', fate: NUMBERS[behind.number], which: { kind: 'course', ownerId: behind.courseId, itemId: behind.stepId }, within: null,
    times: 1, url: null,
  })
  if (trouble) of.push({
    kind: 'email', fate: TROUBLES[trouble], which: null, within: trouble === 'waitingAgain' ? null : { kind: 'last-days', days: 7 },
    times: 1, url: null,
  })
  if (standing) of.push({ kind: 'course', courseId: standing.courseId, is: standing.is === 'started' ? 'ever' : standing.is, stepId: null })
  if (heldBack) of.push(...standingConditions(heldBack))
  if (ofBroadcast) of.push(behindBroadcast(context, ofBroadcast).where)
  if (of.length === 0) return where ?? EVERYBODY
  return where === null ? { kind: 'all', of } : within(where, of)
}

export function behindBroadcast(context: Pick<WorkspaceContext, 'db' | 'baseUrl'>, { id, key }: { id: number, key: string }): PeopleBehind {
  const broadcast = findBroadcast(context.db, id)
  const found = broadcast && broadcastPeople(context, broadcast.draft).get(key)
  if (!found) throw new NotThere('This number of this broadcast is no longer there.')
  return { says: `${found.says}: broadcast “${broadcast.name}”`, where: found.where }
}

/** Put where it nests no deeper than it did: among what belongs, if it has the two parts of the editor. */
function within(where: Condition, of: Condition[]): Condition {
  if (where.kind !== 'all') return { kind: 'all', of: [...of, where] }
  const [first, ...others] = where.of
  return others.length === 1 && first!.kind === 'all' && others[0]!.kind === 'none'
    ? { kind: 'all', of: [{ kind: 'all', of: [...of, ...first!.of] }, ...others] }
    : { kind: 'all', of: [...of, ...where.of] }
}
