/** Emails that stand nowhere yet: written on the way, and put into a course later. */
import type { MessageContent } from '#core/message/content'
import { emptyMessage } from '#core/message/content'
import { aDayLater } from '#core/sequence/nextDay'
import type { DraftEmail } from '#core/sequence/draft'
import type { EmailDraftView } from '#core/views/email'
import { findCourse } from '#data/courses'
import { deleteEmailDraft, findEmailDraft, insertEmailDraft, updateEmailDraft, type EmailDraftRow } from '#data/emailDrafts'
import type { Database } from '#data/connection'
import type { WorkspaceContext } from '../context'
import { saveCourse } from '../courses/save'
import { transact } from '../inner/reactor/transaction'
import { mustBe, revisionOf } from '../inner/revision'
import { InputProblem, NotThere } from '../problem'
import { problemInEmail } from './writtenEmail'

function theDraft(db: Database, id: number): EmailDraftRow {
  const draft = findEmailDraft(db, id)
  if (!draft) throw new NotThere('This draft no longer exists. Perhaps it stands in a course by now.')
  return draft
}
const asSeen = (content: MessageContent) => ({ name: '', draft: content })

export function emailDraftView(context: WorkspaceContext, id: number): EmailDraftView {
  const { content } = theDraft(context.db, id)
  return { id, content, revision: revisionOf(context, asSeen(content)) }
}

/** Empty, unless it begins as something. Returns its number. */
export const beginEmailDraft = (context: WorkspaceContext, content: MessageContent | null = null): number =>
  transact(context, () => insertEmailDraft(context.db, content ?? emptyMessage(), context.clock.now()))

export function saveEmailDraft(context: WorkspaceContext, id: number, content: MessageContent, seen: string | null = null): void {
  const { db } = context
  transact(context, () => {
    mustBe(context, seen, asSeen(theDraft(db, id).content), asSeen(content))
    const problem = problemInEmail(db, content)
    if (problem !== null) throw new InputProblem([{ field: 'content', problem }])
    updateEmailDraft(db, id, content, context.clock.now())
  })
}

export function removeEmailDraft(context: WorkspaceContext, id: number): MessageContent {
  const { db } = context
  return transact(context, () => {
    const { content } = theDraft(db, id)
    deleteEmailDraft(db, id)
    return content
  })
}

const FIRST = { kind: 'at-once' } as const

/**
 * At the end of a course that is being written, a day after the email before it; a running course says that it has changes. The draft is
 * none any more.
 */
export function placeEmailDraft(context: WorkspaceContext, id: number, courseId: number, stepId: string): void {
  const { db } = context
  transact(context, () => {
    const { content } = theDraft(db, id)
    const course = findCourse(db, courseId)
    if (!course) throw new NotThere('This course no longer exists.')
    const { name, draft } = course
    const last = draft.steps.findLast(step => step.kind === 'email')
    const step: DraftEmail = {
      id: stepId, kind: 'email', when: last ? aDayLater(last.when) : FIRST, ifPast: 'at-once', zone: last?.zone ?? 'workspace', content,
    }
    // What ends a course ends it: behind that nobody would come.
    const end = draft.steps.findIndex(one => one.kind === 'end')
    const steps = end < 0 ? [...draft.steps, step] : [...draft.steps.slice(0, end), step, ...draft.steps.slice(end)]
    saveCourse(context, courseId, name, { ...draft, steps })
    deleteEmailDraft(db, id)
  })
}
