/** A course as it is being written: its steps with the emails in them. */
import type { MessageContent } from '#core/message/content'
import { emptyMessage, isWritten, linksOf } from '#core/message/content'
import { both, isWeekHours, type WeekHours } from '#core/time/hours'
import type { When } from '#core/time/when'
import type { EmailStep, Program } from './program'

export interface DraftStep extends Omit<EmailStep, 'messageId'> {
  content: MessageContent
}

export interface CourseDraft {
  listId: number | null
  wayInTagIds: number[]
  /** Whether someone may come in a second time. */
  again: 'once' | 'after-ending'
  /** Emails leave only in these half-hours, and only in the workspace's; null for the workspace's. */
  hours?: WeekHours | null
  steps: DraftStep[]
}

export function newStep(id: string, when: When): DraftStep {
  return { id, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', ifNotClicked: null, content: emptyMessage() }
}

/** The program the draft would run as; `messageId` gives the stored wording of a written email. */
export function programOf(draft: CourseDraft, messageId: (step: DraftStep) => number): Program {
  return {
    ...draft.hours && { hours: draft.hours },
    steps: draft.steps.map(({ content, ...step }) => ({ ...step, messageId: isWritten(content) ? messageId({ ...step, content }) : null })),
  }
}

export interface Missing { stepId: string | null, problem: string }

/** What keeps a course from starting. `hours` are the workspace's. Later emails may still be empty: people then stand before them. */
export function missingForStart(draft: CourseDraft, hours: WeekHours): Missing[] {
  const missing: Missing[] = []
  if (draft.hours && !isWeekHours(both(draft.hours, hours))) missing.push({ stepId: null, problem: 'Its sending hours and those of the workspace never open together: open one half-hour at least.' })
  if (draft.listId === null) missing.push({ stepId: null, problem: 'Choose the list this course belongs to: every email belongs to one.' })
  const [first] = draft.steps
  if (!first) missing.push({ stepId: null, problem: 'Add a first email.' })
  else if (!isWritten(first.content)) missing.push({ stepId: first.id, problem: 'Write the first email: it needs a subject and some text.' })
  for (const step of draft.steps) {
    const bad = linksOf(step.content.body).find(link => !isFollowable(link.url))
    if (bad) missing.push({ stepId: step.id, problem: `“${bad.label}” needs a web address that begins with https:// or http://.` })
    const button = step.content.body.content.find(block => block.type === 'button' && block.attrs.label.trim() === '')
    if (button) missing.push({ stepId: step.id, problem: 'A button needs words on it.' })
  }
  return missing
}

export function isFollowable(url: string): boolean {
  return /^https?:\/\/[^\s/$.?#].[^\s]*$/i.test(url)
}
