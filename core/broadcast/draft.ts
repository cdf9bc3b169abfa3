/** A broadcast as its owner writes it: one email to one audience, once. */
import type { Condition, Group } from '#core/audience/condition'
import { bothParts, partsOf } from '#core/audience/parts'
import { isWritten } from '#core/message/blocks'
import { emptyMessage, nameOfMessage, plainLine, type MessageContent } from '#core/message/content'
import { missingInEmail } from '#core/message/missing'
import type { Audience } from '#core/sending/audience'
import type { SendOf } from '#core/sending/kinds'
import type { AgainSpec, PlannedAgain } from './again'
import type { BroadcastWhen } from './when'
import { isDate, isLocalTime } from '#core/time/zone'

/** Whom it spares by itself, besides whom its sentence says. */
export interface Guards {
  /** People who joined so many days ago (24 hours each) or less; null spares no newcomers. */
  newcomerDays: number | null
  /** People who are inside one of these courses. */
  insideCourseIds: number[]
  /** People who have everything that it sells. */
  owners: boolean
}

/** The story it belongs to: with the next email of the same story its audience begins as it was. */
export interface Story { offerId: number | null, topic: string }

export interface BroadcastDraft {
  content: MessageContent
  listId: number | null
  /** Who gets it, but never who. */
  who: Condition
  guards: Guards
  when: BroadcastWhen
  /** Over so many hours; 0 for as fast as it goes. */
  spreadHours: number
  /** A second sending to those who miss it; null for none. */
  again: PlannedAgain | null
  story: Story
}

/** Days (24 hours each) of being new, where nobody says otherwise. */
export const NEWCOMER_DAYS = 7
export const MOST_NEWCOMER_DAYS = 90
export const MOST_SPREAD_HOURS = 72
export const MOST_GUARDED_COURSES = 20

export const newBroadcast = (listId: number | null): BroadcastDraft => ({
  content: emptyMessage(), listId, who: bothParts(), guards: { newcomerDays: NEWCOMER_DAYS, insideCourseIds: [], owners: true },
  when: { kind: 'now' }, spreadHours: 0, again: null, story: { offerId: null, topic: '' },
})

/** A broadcast has one email. */
export const sendOfBroadcast = (id: number): SendOf & { kind: 'broadcast' } => ({ kind: 'broadcast', ownerId: id, itemId: 'email' })

export const nameOfBroadcast = ({ content }: Pick<BroadcastDraft, 'content'>): string => nameOfMessage(content)

/** Whom it goes to, its guards among them: who is inside a course is left out as anybody in *never* is. */
export function audienceOf({ who, guards }: Pick<BroadcastDraft, 'who' | 'guards'>): Audience {
  const { belongs, never } = partsOf(who)
  const leftOut: Condition[] = [
    ...never.of, ...guards.insideCourseIds.map(courseId => ({ kind: 'course' as const, courseId, is: 'inside' as const, stepId: null })),
  ]
  return {
    getsIt: belongs, never: leftOut.length === 0 ? null : { kind: 'any', of: leftOut } satisfies Group,
    newcomerDays: guards.newcomerDays, ...!guards.owners && { ownersToo: true as const },
  }
}

/** What keeps it from being sent, each at its field. */
export function missingForSending(draft: BroadcastDraft): { field: 'content' | 'listId' | 'when' | 'again', problem: string }[] {
  const { content, listId, when, again } = draft
  return [
    ...isWritten(content) ? [] : [{ field: 'content' as const, problem: 'Write the email: it needs a subject and some text.' }],
    ...missingInEmail(content).map(problem => ({ field: 'content' as const, problem })),
    ...listId === null ? [
      { field: 'listId' as const, problem: 'Choose the list this email belongs to. Readers can leave that list.' },
    ] : [],
    ...when.kind === 'at' && !(isDate(when.date) && isLocalTime(when.time))
      ? [{ field: 'when' as const, problem: 'Choose a date and a time.' }]
      : [],
    ...again ? missingForAgain(again, content) : [],
  ]
}

/** The same for a second sending of it. */
export function missingForAgain({ subject, without, url }: AgainSpec, content: MessageContent): { field: 'again', problem: string }[] {
  const missing = (problem: string) => [{ field: 'again' as const, problem }]
  if (plainLine(subject).trim() === '') return missing('Give the second sending a subject of its own.')
  if (plainLine(subject).trim() === plainLine(content.subject).trim()) return missing(
    'The second sending needs another subject than the first.'
  )
  return without === 'link' && url === null ? missing('Choose which link they have not followed.') : []
}
