/** Steps of a course as they are edited: what a new one begins as, what they are called, where they lie. */
import { EVERYBODY, leavesOf, type Condition } from '#core/audience/condition'
import { sayCondition } from '#core/audience/say'
import { nameOfMessage } from '#core/message/content'
import { sayAction, sayTrigger, type RuleNames } from '#core/rules/say'
import { allSteps, DID, DID_NOT, OTHERWISE, waysOf, type Span, type Until } from '#core/sequence/program'
import { newEmail, type DraftStep } from '#core/sequence/draft'

export const freshId = () => crypto.randomUUID().slice(0, 8)

/** The kinds of step to add, each with what it is for. */
export const STEP_KINDS: { kind: DraftStep['kind'], name: string, icon: string, hint: string }[] = [
  { kind: 'email', name: 'an email', icon: 'pi pi-envelope', hint: 'something to read' },
  { kind: 'hold', name: 'a hold', icon: 'pi pi-pause', hint: 'wait until something happens, up to a limit' },
  { kind: 'fork', name: 'a fork', icon: 'pi pi-share-alt', hint: 'different paths for different people' },
  { kind: 'do', name: 'something done', icon: 'pi pi-check-square', hint: 'add a tag, add to a list, add a to-do …' },
  { kind: 'jump', name: 'a jump', icon: 'pi pi-replay', hint: 'continue at another step' },
  { kind: 'end', name: 'an end', icon: 'pi pi-stop', hint: 'the course ends here' },
]

/** `first`: it would be the first of the course. */
export function newStep(kind: DraftStep['kind'], first: boolean): DraftStep {
  const base = { id: freshId(), when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const }
  switch (kind) {
    case 'email': return newEmail(base.id, first ? base.when : { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' })
    case 'hold': return {
      ...base, kind, until: { kind: 'event', when: { kind: 'clicked', thingId: null } }, atMost: { count: 3, unit: 'days' }, did: [],
      didNot: [],
    }
    case 'fork': return { ...base, kind, ways: [{ id: freshId(), who: EVERYBODY, steps: [] }], otherwise: [] }
    case 'do': return { ...base, kind, then: [] }
    case 'jump': return { ...base, kind, when: { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, toId: '' }
    case 'end': return { ...base, kind }
  }
}

/** The row a step lies in, and where in it. */
export function placeIn(steps: DraftStep[], id: string): { row: DraftStep[], at: number } | null {
  const at = steps.findIndex(step => step.id === id)
  if (at >= 0) return { row: steps, at }
  for (const step of steps) {
    for (const way of waysOf(step)) {
      const found = placeIn(way.steps, id)
      if (found) return found
    }
  }
  return null
}

/** A copy with ids of its own, ways and their steps included; its emails have not been sent to anybody. */
export function copyOf(step: DraftStep): DraftStep {
  const ids = new Map(allSteps<DraftStep>([step]).flatMap(one => [one.id, ...one.kind === 'fork' ? one.ways.map(({ id }) => id) : []])
    .map(id => [id, freshId()]))
  // Every id stands in quotes of its own, also where a jump or a hold names it.
  return JSON.parse(JSON.stringify(step).replace(/"(?:id|toId|stepId)":"([^"]*)"/g, (whole, id: string) =>
    ids.has(id) ? whole.replace(`:"${id}"`, `:"${ids.get(id)}"`) : whole)) as DraftStep
}

const UNITS: Record<Span['unit'], [one: string, many: string]> = {
  minutes: ['minute', 'minutes'], hours: ['hour', 'hours'], days: ['day (24 hours)', 'days (24 hours)'], weeks: ['week', 'weeks'],
}
export const saySpan = ({ count, unit }: Span): string => `${count} ${UNITS[unit][count === 1 ? 0 : 1]}`

function sayUntil(until: Until, names: RuleNames, title: (stepId: string) => string): string {
  if (until.kind === 'condition') return `they are among people ${sayCondition(until.who, names) || 'of every kind'}`
  const { when } = until
  return sayTrigger(when, names) + (when.kind === 'clicked' && when.stepId ? ` in “${title(when.stepId)}”` : '')
}

/** What a step is, in words. `title` names another step. */
export function sayStep(step: DraftStep, names: RuleNames, title: (stepId: string) => string): string {
  switch (step.kind) {
    case 'email': return nameOfMessage(step.content) || 'Empty email'
    case 'hold': return `Hold until ${sayUntil(step.until, names, title)}, at most ${saySpan(step.atMost)}`
    case 'fork':
      if (!step.ways.every(({ who }) => isSaid(who))) return 'A fork … choose for whom'
      return upper(step.ways.map(({ who }) => `people ${sayCondition(who, names)}?`).join(' Else, '))
    case 'do': return step.then.length === 0
      ? 'No actions yet'
      : upper(step.then.map(action => sayAction(action, names)).join(', then '))
    case 'jump': return step.toId ? `Continue at “${title(step.toId)}”` : 'Continue at … choose a step'
    case 'end': return 'The course ends here'
  }
}

const isSaid = (who: Condition) => leavesOf(who).length > 0
const upper = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

/** The head of each way of a step, by its id. */
export function sayWay(step: DraftStep, wayId: string, names: RuleNames): string {
  if (wayId === DID) return 'It happened'
  if (wayId === DID_NOT) return step.kind === 'hold' ? `Not within ${saySpan(step.atMost)}` : ''
  if (wayId === OTHERWISE) return 'Everybody else'
  const way = step.kind === 'fork' ? step.ways.find(({ id }) => id === wayId) : undefined
  if (!way) return ''
  return isSaid(way.who) ? `People ${sayCondition(way.who, names)}` : 'Choose for whom'
}
