/** Writing a course. Nothing leaves by saving: a draft stands beside what runs. */
import type { CourseDraft } from '#core/sequence/draft'
import { emailsOf, newEmail, thingsOfEntriesAndExits, thingsOfStep, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import { THING_WORDS } from '#core/things'
import { linksOf } from '#core/message/blocks'
import type { Database } from '#data/connection'
import { findCourse, insertCourse, updateDraft } from '#data/courses'
import { findField } from '#data/fields'
import { isThere } from '#data/things'
import { findList, findTag } from '#data/marks'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { mustBe } from '../inner/revision'
import { keepBefore } from '../know/earlierEmails'
import { problemInEmail } from '../know/writtenEmail'
import { InputProblem, NotThere } from '../problem'

/** A new course has one empty email that goes at once. `stepId` is made by the caller. */
export function createCourse(context: WorkspaceContext, name: string, stepId: string): number {
  const draft: CourseDraft = { listId: null, wayInTagIds: [], again: 'after-ending', steps: [newEmail(stepId, { kind: 'at-once' })] }
  return transact(context, () => insertCourse(context.db, tidyTitle(name), draft, context.clock.now()))
}

/** `seen`: the revision that was edited; see {@link mustBe}. */
export function saveCourse(context: WorkspaceContext, id: number, name: string, draft: CourseDraft, seen: string | null = null): void {
  transact(context, () => {
    const before = findCourse(context.db, id)
    if (!before) throw new NotThere('This course no longer exists.')
    mustBe(context, seen, before, { name: tidyTitle(name), draft })
    checkDraft(context.db, draft)
    for (const step of emailsOf(before.draft)) {
      const now = emailsOf(draft).find(one => one.id === step.id)
      if (now) keepBefore(context, { kind: 'course', ownerId: id, itemId: step.id }, step.content, now.content)
    }
    updateDraft(context.db, id, tidyTitle(name), draft, context.clock.now())
  })
}

/** Throws an {@link InputProblem} where nothing is left. */
export function tidyTitle(name: string): string {
  const title = name.replace(/\s+/g, ' ').trim()
  if (title === '') throw new InputProblem([{ field: 'name', problem: 'Give the course a name.' }])
  return title
}

/** Everything it names is there, and no two steps have the same id. Throws an {@link InputProblem}. */
export function checkDraft(db: Database, draft: CourseDraft): void {
  if (draft.listId !== null && !findList(db, draft.listId)) {
    throw new InputProblem([{ field: 'listId', problem: 'This list no longer exists; choose another.' }])
  }
  const tagIds = [...draft.wayInTagIds, ...emailsOf(draft).flatMap(step => linksOf(step.content.body).map(link => link.tagId))]
  if (tagIds.some(tagId => tagId !== null && !findTag(db, tagId))) {
    throw new InputProblem([{ field: 'tags', problem: 'One of the tags no longer exists; choose another.' }])
  }
  const steps = allSteps<DraftStep>(draft.steps)
  if (draft.wayInListIds?.some(listId => !findList(db, listId))) {
    throw new InputProblem([{ field: 'lists', problem: 'One of the lists no longer exists; choose another.' }])
  }
  if (draft.dates && findField(db, draft.dates.fieldId)?.kind !== 'date') {
    throw new InputProblem([{ field: 'dates', problem: 'The date field people join by no longer exists; choose another.' }])
  }
  const gone = [...thingsOfEntriesAndExits(draft), ...steps.flatMap(thingsOfStep)].find(({ kind, id }) => !isThere(db, kind, id))
  if (gone) throw new InputProblem([
    { field: 'steps', problem: `The course names ${THING_WORDS[gone.kind]} that no longer exists; choose another.` },
  ])
  if (steps.some(({ when }) => when.kind === 'date-field' && findField(db, when.fieldId)?.kind !== 'date')) {
    throw new InputProblem([{ field: 'steps', problem: 'A step uses a date field that no longer exists; choose another.' }])
  }
  for (const { content } of emailsOf(draft)) {
    const problem = problemInEmail(db, content)
    if (problem) throw new InputProblem([{ field: 'steps', problem }])
  }
  if (draft.hours && !draft.hours.includes('1')) {
    throw new InputProblem([{ field: 'hours', problem: 'Leave at least one half-hour open. Otherwise nothing would ever be sent.' }])
  }
  const ids = steps.flatMap(step => [step.id, ...step.kind === 'fork' ? step.ways.map(({ id }) => `${step.id}/${id}`) : []])
  if (new Set(ids).size < ids.length) {
    throw new InputProblem([{ field: 'steps', problem: 'Two steps have the same internal name. Reload the page.' }])
  }
}
