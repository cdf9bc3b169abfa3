/** Writing a broadcast. Saving is private, also while it is scheduled: what is scheduled stays until it is scheduled anew. */
import { newBroadcast, nameOfBroadcast, sendOfBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import type { Condition } from '#core/audience/condition'
import { ofParts, partsOf } from '#core/audience/parts'
import { allBroadcasts, findBroadcast, insertBroadcast, setBroadcastGone, updateBroadcast, type BroadcastRow } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { allLists, findList } from '#data/marks'
import { findOffer } from '#data/offers'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { mustBe } from '../inner/revision'
import { keepBefore } from '../know/earlierEmails'
import { checkCondition } from '../know/segments'
import { problemInEmail } from '../know/writtenEmail'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'

/** What one that has no title yet is called. */
export const UNTITLED = 'An email without a title'

const nameOf = (draft: BroadcastDraft): string => nameOfBroadcast(draft) || UNTITLED

export function theBroadcast(db: Database, id: number): BroadcastRow {
  const broadcast = findBroadcast(db, id)
  if (!broadcast) throw new NotThere('This broadcast no longer exists.')
  return broadcast
}

/** Empty, or begun as another was written. Returns its number. */
export const createBroadcast = (
  context: WorkspaceContext, from: BroadcastDraft | null = null, who: Condition | null = null,
): number => transact(context, () => {
  const begun = from ?? newBroadcast(allLists(context.db)[0]?.id ?? null)
  const draft = who === null ? begun : { ...begun, who: ofParts(partsOf(who)) }
  return insertBroadcast(context.db, { name: nameOf(draft), draft, at: context.clock.now() })
})

/** One that came from elsewhere. In the caller's transaction; throws for what cannot be written here. */
export function insertDraft({ db, clock }: WorkspaceContext, draft: BroadcastDraft): number {
  const problems = problemsOf(db, draft)
  if (problems.length > 0) throw new InputProblem(problems)
  return insertBroadcast(db, { name: nameOf(draft), draft, at: clock.now() })
}

/** What was sent stays as it was: another one begins as it was written, for whenever its owner says. */
export const duplicateBroadcast = (context: WorkspaceContext, id: number): number => {
  const { draft } = theBroadcast(context.db, id)
  const { workingTitle } = draft.content
  return createBroadcast(context, {
    ...draft, when: { kind: 'now' }, again: null,
    content: { ...draft.content, workingTitle: workingTitle === '' ? '' : `${workingTitle}, copy` },
  })
}

export const revised = ({ name, draft }: Pick<BroadcastRow, 'name' | 'draft'>) => ({ name, draft })

/** `seen`: the revision that was edited; see {@link mustBe}. */
export function saveBroadcast(context: WorkspaceContext, id: number, draft: BroadcastDraft, seen: string | null = null): void {
  const { db } = context
  transact(context, () => {
    const before = theBroadcast(db, id)
    const name = nameOf(draft)
    mustBe(context, seen, revised(before), { name, draft })
    if (!mayChange(before)) throw new NotNow('This is being sent, or was sent, and stays as it is. Duplicate it to send something like it.')
    const problems = problemsOf(db, draft)
    if (problems.length > 0) throw new InputProblem(problems)
    keepBefore(context, sendOfBroadcast(id), before.draft.content, draft.content)
    updateBroadcast(db, id, { name, draft, at: context.clock.now() })
  })
}

export const mayChange = ({ state }: Pick<BroadcastRow, 'state'>): boolean => state === 'draft' || state === 'scheduled'

function problemsOf(db: Database, { content, listId, who, guards, story }: BroadcastDraft): FieldProblem[] {
  const problems: FieldProblem[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) problems.push({ field, problem })
  }
  want(listId === null || findList(db, listId) !== undefined, 'listId', 'This list no longer exists.')
  want(
    guards.insideCourseIds.every(courseId => findCourse(db, courseId) !== undefined), 'guards.insideCourseIds',
    'One of these courses no longer exists.',
  )
  want(story.offerId === null || findOffer(db, story.offerId) !== undefined, 'story.offerId', 'This offer no longer exists.')
  const inEmail = problemInEmail(db, content)
  if (inEmail !== null) problems.push({ field: 'content', problem: inEmail })
  const { belongs, never } = partsOf(who)
  const inWho = checkCondition(db, belongs, null) ?? checkCondition(db, never, null)
  if (inWho !== null) problems.push({ field: 'who', problem: inWho })
  return problems
}

/** The audience of the latest broadcast of the same story, to begin the next with; null where there is none. */
export function audienceOfStory(
  db: Database, { offerId, topic }: BroadcastDraft['story'], exceptId: number,
): Pick<BroadcastDraft, 'who' | 'guards' | 'listId'> | null {
  const told = topic.trim().toLowerCase()
  if (offerId === null && told === '') return null
  const same = allBroadcasts(db).find(({ id, scheduled }) => id !== exceptId && scheduled !== null
    && (offerId !== null ? scheduled.story.offerId === offerId : scheduled.story.topic.trim().toLowerCase() === told))
  return same ? { who: same.scheduled!.who, guards: same.scheduled!.guards, listId: same.scheduled!.listId } : null
}

/** What is at work, or was sent, stays: it can be put away instead. */
export function removeBroadcast(context: WorkspaceContext, id: number): void {
  transact(context, () => {
    const { state } = theBroadcast(context.db, id)
    if (state === 'scheduled') throw new NotNow('This is scheduled. Cancel sending first.')
    if (state !== 'draft') throw new NotNow('What was sent is kept: people have it. You can archive it instead.')
    setBroadcastGone(context.db, id, context.clock.now())
  })
}

export const putBackBroadcast = (context: WorkspaceContext, id: number): void => transact(context, () => {
  setBroadcastGone(context.db, id, null)
})
