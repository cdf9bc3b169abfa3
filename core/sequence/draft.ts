/** A course as it is being written: its steps with the emails in them. */
import { EVERYBODY, leavesOf } from '#core/audience/condition'
import type { MessageContent } from '#core/message/content'
import { thingsIn, thingsOfAction, thingsOfLeaf, type Thing } from '#core/rules/rule'
import { emptyMessage, isWritten, linksOf } from '#core/message/content'
import { both, isWeekHours, type WeekHours } from '#core/time/hours'
import type { When } from '#core/time/when'
import { allSteps, placesOf, type DoStep, type EmailStep, type EndStep, type ForkStep, type ForkWay, type HoldStep, type JumpStep, type Program, type Step } from './program'

export interface DraftEmail extends Omit<EmailStep, 'messageId'> {
  content: MessageContent
}
export interface DraftHold extends Omit<HoldStep, 'did' | 'didNot'> { did: DraftStep[], didNot: DraftStep[] }
export interface DraftFork extends Omit<ForkStep, 'ways' | 'otherwise'> { ways: DraftWay[], otherwise: DraftStep[] }
export interface DraftWay extends Omit<ForkWay, 'steps'> { steps: DraftStep[] }
/** A step of a draft: emails carry their words, ways carry steps of a draft; all else is as it runs. */
export type DraftStep = DraftEmail | DraftHold | DraftFork | DoStep | JumpStep | EndStep

export interface CourseDraft {
  listId: number | null
  wayInTagIds: number[]
  /** Whether someone may come in a second time. */
  again: 'once' | 'after-ending'
  /** Emails leave only in these half-hours, and only in the workspace's; null for the workspace's. */
  hours?: WeekHours | null
  steps: DraftStep[]
}

export function newEmail(id: string, when: When): DraftEmail {
  return { id, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', ifNotClicked: null, content: emptyMessage() }
}

/** Every email of a draft, those in ways too, in reading order. */
export const emailsOf = ({ steps }: Pick<CourseDraft, 'steps'>): DraftEmail[] => allSteps(steps).filter(step => step.kind === 'email')

/** What a draft's email is called where it is told of. */
export const titleOfEmail = ({ content }: Pick<DraftEmail, 'content'>): string => content.workingTitle || 'an email without a title'

/** The same steps, each replaced by what `change` makes of it, from the innermost out. */
export function mapSteps(steps: readonly DraftStep[], change: (step: DraftStep) => DraftStep): DraftStep[] {
  const inner = (row: readonly DraftStep[]) => mapSteps(row, change)
  return steps.map((step) => {
    if (step.kind === 'hold') return change({ ...step, did: inner(step.did), didNot: inner(step.didNot) })
    if (step.kind === 'fork') return change({ ...step, ways: step.ways.map(way => ({ ...way, steps: inner(way.steps) })), otherwise: inner(step.otherwise) })
    return change(step)
  })
}

/** The program the draft would run as; `messageId` gives the stored wording of a written email. */
export function programOf(draft: CourseDraft, messageId: (step: DraftEmail) => number): Program {
  const row = (steps: readonly DraftStep[]): Step[] => steps.map((step): Step => {
    switch (step.kind) {
      case 'email': {
        const { content, ...rest } = step
        return { ...rest, messageId: isWritten(content) ? messageId(step) : null }
      }
      case 'hold':
        return { ...step, did: row(step.did), didNot: row(step.didNot) }
      case 'fork':
        return { ...step, ways: step.ways.map(way => ({ ...way, steps: row(way.steps) })), otherwise: row(step.otherwise) }
      default:
        return step
    }
  })
  return { ...draft.hours && { hours: draft.hours }, steps: row(draft.steps) }
}

/** What a fork asks for, a hold waits for and actions are about; of emails see their links. */
export function thingsOfStep(step: DraftStep): Thing[] {
  switch (step.kind) {
    case 'fork': return step.ways.flatMap(({ who }) => leavesOf(who).flatMap(thingsOfLeaf))
    case 'hold': return step.until.kind === 'condition' ? leavesOf(step.until.who).flatMap(thingsOfLeaf) : thingsIn({ when: step.until.when, who: EVERYBODY, then: [] })
    case 'do': return step.then.flatMap(thingsOfAction)
    default: return []
  }
}

export interface Missing { stepId: string | null, problem: string }

/** What keeps a course from starting. `hours` are the workspace's. Later emails may still be empty: people then stand before them. */
export function missingForStart(draft: CourseDraft, hours: WeekHours): Missing[] {
  const missing: Missing[] = []
  if (draft.hours && !isWeekHours(both(draft.hours, hours))) missing.push({ stepId: null, problem: 'Its sending hours and those of the workspace never open together: open one half-hour at least.' })
  if (draft.listId === null) missing.push({ stepId: null, problem: 'Choose the list this course belongs to: every email belongs to one.' })
  const [first] = draft.steps
  const emails = emailsOf(draft)
  if (!first || emails.length === 0) missing.push({ stepId: null, problem: 'Add a first email.' })
  else if (first.kind === 'email' && !isWritten(first.content)) missing.push({ stepId: first.id, problem: 'Write the first email: it needs a subject and some text.' })
  for (const step of emails) {
    const bad = linksOf(step.content.body).find(link => !isFollowable(link.url))
    if (bad) missing.push({ stepId: step.id, problem: `“${bad.label}” needs a web address that begins with https:// or http://.` })
    const button = step.content.body.content.find(block => block.type === 'button' && block.attrs.label.trim() === '')
    if (button) missing.push({ stepId: step.id, problem: 'A button needs words on it.' })
  }
  return [...missing, ...missingInSteps(draft)]
}

/** What is not finished of forks, holds, actions and jumps. */
function missingInSteps(draft: CourseDraft): Missing[] {
  const steps = allSteps<DraftStep>(draft.steps)
  const ids = new Set(steps.map(({ id }) => id))
  return steps.flatMap((step): Missing[] => {
    const missing = (problem: string) => [{ stepId: step.id, problem }]
    switch (step.kind) {
      case 'fork':
        return step.ways.length === 0 ? missing('A fork needs one way with a condition, besides the one for everybody else.') : []
      case 'hold':
        return step.until.kind === 'event' && step.until.when.stepId && !ids.has(step.until.when.stepId) ? missing('It waits for an email that is not in this course any more.') : []
      case 'do':
        return step.then.length === 0 ? missing('Say what is done.') : []
      case 'jump':
        if (!ids.has(step.toId)) return missing('Say before which step it goes on.')
        return loopsAtOnce(draft, step.toId, step.id) ? missing('This jump would go round without any time passing: put a time or a hold on its way.') : []
      default:
        return []
    }
  })
}

/** Whether one can come from `fromId` to the jump without any time passing: by steps that all go at once, and no hold. Emails do not count: who was sent one passes it without waiting. */
function loopsAtOnce(draft: CourseDraft, fromId: string, jumpId: string): boolean {
  const places = placesOf(programOf(draft, () => 0))
  const seen = new Set<string>()
  const walk = (id: string | null): boolean => {
    if (id === null || seen.has(id)) return false
    if (id === jumpId) return places.get(id)!.step.when.kind === 'at-once'
    seen.add(id)
    const { step, nextId } = places.get(id)!
    if (step.kind === 'end' || step.kind === 'hold' || (step.kind !== 'email' && step.when.kind !== 'at-once')) return false
    if (step.kind === 'fork') return [...step.ways.map(({ steps }) => steps[0]?.id ?? nextId), step.otherwise[0]?.id ?? nextId].some(walk)
    return walk(step.kind === 'jump' ? step.toId : nextId)
  }
  return walk(fromId)
}

export function isFollowable(url: string): boolean {
  return /^https?:\/\/[^\s/$.?#].[^\s]*$/i.test(url)
}
