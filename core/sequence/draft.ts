/** A course as it is being written: its steps with the emails in them. */
import { missingInEmail } from '#core/message/missing'
import { EVERYBODY, leavesOf } from '#core/audience/condition'
import type { MessageContent } from '#core/message/content'
import { thingsIn, thingsOfAction, thingsOfLeaf, type Trigger } from '#core/rules/rule'
import type { Thing } from '#core/things'
import { isWritten, linksOf } from '#core/message/blocks'
import { emptyMessage, nameOfMessage, plainLine, withSubject } from '#core/message/content'
import { both, isWeekHours, type WeekHours } from '#core/time/hours'
import { isAlwaysLater, type Timing } from '#core/time/when'
import {
  allSteps, placesOf, type DoStep, type EmailStep, type EndStep, type ForkStep, type ForkWay, type HoldStep, type JumpStep, type Program,
  type Step,
} from './program'

export interface DraftEmail extends Omit<EmailStep, 'messageId'> {
  content: MessageContent
}
export interface DraftHold extends Omit<HoldStep, 'did' | 'didNot'> { did: DraftStep[], didNot: DraftStep[] }
export interface DraftFork extends Omit<ForkStep, 'ways' | 'otherwise'> { ways: DraftWay[], otherwise: DraftStep[] }
export interface DraftWay extends Omit<ForkWay, 'steps'> { steps: DraftStep[] }
/** A step of a draft: emails carry their words, ways carry steps of a draft; all else is as it runs. */
export type DraftStep = DraftEmail | DraftHold | DraftFork | DoStep | JumpStep | EndStep

/** Whether someone may come in a second time: never; after leaving or finishing; always, which begins anew with who is inside. */
export const AGAIN = ['once', 'after-ending', 'always'] as const
export type Again = typeof AGAIN[number]

export interface CourseDraft extends Omit<Program, 'steps'> {
  listId: number | null
  /** What readers see it called; left out for what the list is called to them. Its own name is for the owner alone. */
  publicName?: string
  wayInTagIds: number[]
  /** Whoever comes in joins its list as well, unless they left it: where the words that they agreed to cover it. */
  joinsList?: boolean
  /** Joining one of these lists starts it. */
  wayInListIds?: number[]
  again: Again
  steps: DraftStep[]
}

export function newEmail(id: string, when: Timing): DraftEmail {
  return { id, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', content: emptyMessage() }
}

/** Every email of a draft, those in ways too, in reading order. */
export const emailsOf = ({ steps }: Pick<CourseDraft, 'steps'>): DraftEmail[] => allSteps(steps).filter(step => step.kind === 'email')

/** What a draft's email is called where it is told of. */
export const titleOfEmail = ({ content }: Pick<DraftEmail, 'content'>): string => nameOfMessage(content) || 'an email without a title'

/** The same steps, each replaced by what `change` makes of it, from the innermost out. */
export function mapSteps(steps: readonly DraftStep[], change: (step: DraftStep) => DraftStep): DraftStep[] {
  const inner = (row: readonly DraftStep[]) => mapSteps(row, change)
  return steps.map((step) => {
    if (step.kind === 'hold') return change({ ...step, did: inner(step.did), didNot: inner(step.didNot) })
    if (step.kind === 'fork') {
      return change({ ...step, ways: step.ways.map(way => ({ ...way, steps: inner(way.steps) })), otherwise: inner(step.otherwise) })
    }
    return change(step)
  })
}

/** A written email of a draft, or the same under another subject for its second sending; `key` tells them apart. */
export interface Worded { key: string, stepId: string, content: MessageContent }

/** All that a draft needs stored wordings for. */
export const wordedIn = (draft: Pick<CourseDraft, 'steps'>): Worded[] => emailsOf(draft).filter(({ content }) => isWritten(content))
  .flatMap(({ id, content, reactions }) => [
  { key: id, stepId: id, content },
  ...(reactions ?? []).flatMap(({ id: reactionId, again }) =>
    again ? [{ key: `${id}/${reactionId}`, stepId: id, content: withSubject(content, again.subject) }] : []),
])

/** The program the draft would run as; `messageId` gives the stored wording, by its key. */
export function programOf(draft: CourseDraft, messageId: (key: string) => number): Program {
  const row = (steps: readonly DraftStep[]): Step[] => steps.map((step): Step => {
    switch (step.kind) {
      case 'email': {
        const { content, reactions, ...rest } = step
        const written = isWritten(content)
        return {
          ...rest, messageId: written ? messageId(step.id) : null,
          ...reactions && { reactions: reactions.map(one =>
            one.again ? { ...one, again: { ...one.again, messageId: written ? messageId(`${step.id}/${one.id}`) : null } } : one) },
        }
      }
      case 'hold':
        return { ...step, did: row(step.did), didNot: row(step.didNot) }
      case 'fork':
        return { ...step, ways: step.ways.map(way => ({ ...way, steps: row(way.steps) })), otherwise: row(step.otherwise) }
      default:
        return step
    }
  })
  const { hours, entry, waysOut, onFinish, dates } = draft
  return {
    ...hours && { hours }, ...entry && { entry }, ...waysOut?.length && { waysOut }, ...onFinish?.length && { onFinish },
    ...dates && { dates }, steps: row(draft.steps),
  }
}

const thingsOfTrigger = (when: Trigger): Thing[] => thingsIn({ when, who: EVERYBODY, then: [] })

/**
 * What the doors of a course are about: who may come in, what takes people out, what is done at the end. Its tags, lists and date stand by
 * themselves.
 */
export const thingsOfEntriesAndExits = ({ entry, waysOut, onFinish }: Pick<CourseDraft, 'entry' | 'waysOut' | 'onFinish'>): Thing[] => [
  ...entry ? leavesOf(entry).flatMap(thingsOfLeaf) : [], ...(waysOut ?? []).flatMap(({ when }) => thingsOfTrigger(when)),
  ...(onFinish ?? []).flatMap(thingsOfAction),
]

/** What a fork asks for, a hold waits for and actions are about; of emails see their links, too. */
export function thingsOfStep(step: DraftStep): Thing[] {
  switch (step.kind) {
    case 'email': return (step.reactions ?? []).flatMap(({ then }) => then.flatMap(thingsOfAction))
    case 'fork': return step.ways.flatMap(({ who }) => leavesOf(who).flatMap(thingsOfLeaf))
    case 'hold': return step.until.kind === 'condition' ? leavesOf(step.until.who).flatMap(thingsOfLeaf) : thingsOfTrigger(step.until.when)
    case 'do': return step.then.flatMap(thingsOfAction)
    default: return []
  }
}

export interface Missing { stepId: string | null, problem: string }

/** What keeps a course from starting. `hours` are the workspace's. Later emails may still be empty: people then stand before them. */
export function missingForStart(draft: CourseDraft, hours: WeekHours): Missing[] {
  const missing: Missing[] = []
  if (draft.hours && !isWeekHours(both(draft.hours, hours))) missing.push({
    stepId: null, problem: 'Its sending hours never overlap with the workspace’s. Open at least one common half-hour.',
  })
  if (draft.listId === null) missing.push({ stepId: null, problem: 'Choose the list this course belongs to. Every email belongs to one.' })
  const [first] = draft.steps
  const emails = emailsOf(draft)
  const ids = new Set(allSteps<DraftStep>(draft.steps).map(({ id }) => id))
  if (!first || emails.length === 0) missing.push({ stepId: null, problem: 'Add a first email.' })
  else if (first.kind === 'email' && !isWritten(first.content)) missing.push({
    stepId: first.id, problem: 'Write the first email: it needs a subject and some text.',
  })
  for (const step of emails) {
    const lost = step.notIfReadId !== undefined && !emails.some(({ id }) => id === step.notIfReadId)
      ? ['It leaves out readers of an email that is no longer in this course.']
      : []
    const problems = [...missingInEmail(step.content), ...missingInReactions(step, ids), ...lost]
    for (const problem of problems) missing.push({ stepId: step.id, problem })
  }
  for (const { fromStepId } of draft.waysOut ?? []) if (fromStepId !== null && !ids.has(fromStepId)) missing.push({
    stepId: null, problem: 'A way out starts at a step that is no longer in this course.',
  })
  if (draft.dates && first && !(first.when.kind === 'date-field' && first.when.fieldId === draft.dates.fieldId)) {
    missing.push({ stepId: first.id, problem: 'People join on a personal date, so the first step must use that date, too.' })
  }
  return [...missing, ...missingInSteps(draft)]
}

function missingInReactions({ reactions = [], content }: DraftEmail, ids: ReadonlySet<string>): string[] {
  const urls = linksOf(content.body).map(({ url }) => url)
  return reactions.flatMap(({ url, then, again, skipToId }) => [
    ...then.length === 0 && !again && !skipToId ? ['Choose what happens then.'] : [],
    ...url !== undefined && !urls.includes(url) ? ['It reacts to a link that is no longer in the email.'] : [],
    ...again && plainLine(again.subject).trim() === '' ? ['The second sending needs a subject.'] : [],
    ...skipToId !== undefined && !ids.has(skipToId) ? ['It continues at a step that is no longer in this course.'] : [],
  ])
}

/** What is not finished of forks, holds, actions and jumps. */
function missingInSteps(draft: CourseDraft): Missing[] {
  const steps = allSteps<DraftStep>(draft.steps)
  const ids = new Set(steps.map(({ id }) => id))
  return steps.flatMap((step): Missing[] => {
    const missing = (problem: string) => [{ stepId: step.id, problem }]
    switch (step.kind) {
      case 'fork':
        return step.ways.length === 0 ? missing('A fork needs one path with a condition, besides the one for everyone else.') : []
      case 'hold':
        return step.until.kind === 'event' && step.until.when.stepId && !ids.has(step.until.when.stepId)
          ? missing('It waits for an email that is no longer in this course.')
          : []
      case 'do':
        return step.then.length === 0 ? missing('Choose what is done.') : []
      case 'jump':
        if (!ids.has(step.toId)) return missing('Choose the step to continue at.')
        return loopsAtOnce(draft, step.toId, step.id)
          ? missing('This jump could repeat without any time passing. Add a hold, or a step timed from the previous step.')
          : []
      default:
        return []
    }
  })
}

/**
 * Whether one can come from `fromId` to the jump without any time passing: no hold, and no step that is always later than the one before.
 * Emails do not count: people who were sent one pass it without waiting.
 */
function loopsAtOnce(draft: CourseDraft, fromId: string, jumpId: string): boolean {
  const places = placesOf(programOf(draft, () => 0))
  const seen = new Set<string>()
  const walk = (id: string | null): boolean => {
    if (id === null || seen.has(id)) return false
    if (id === jumpId) return !isAlwaysLater(places.get(id)!.step.when)
    seen.add(id)
    const { step, nextId } = places.get(id)!
    if (step.kind === 'end' || step.kind === 'hold' || (step.kind !== 'email' && isAlwaysLater(step.when))) return false
    if (step.kind === 'fork') return [...step.ways.map(({ steps }) => steps[0]?.id ?? nextId), step.otherwise[0]?.id ?? nextId].some(walk)
    return walk(step.kind === 'jump' ? step.toId : nextId)
  }
  return walk(fromId)
}
