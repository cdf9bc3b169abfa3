/** Rules and courses that could feed each other without any time passing: found before they are saved, by what each could bring about. */
import { EVERYBODY, leavesOf, type Condition, type Leaf } from '#core/audience/condition'
import type { AtOnce } from '#core/sequence/atOnce'
import type { Action, Rule, Trigger } from './rule'

/** What actions reach besides what they name. */
export interface Reach {
  /** Courses that a tag starts. */
  coursesStartedBy(tagId: number): number[]
  /** Courses that belong to a list: leaving it ends them. */
  coursesOfList(listId: number): number[]
  /** Courses that joining a list starts. */
  coursesStartedByList(listId: number): number[]
  segments: ReadonlyMap<number, Condition>
  /**
   * Courses that run and let people in more than once: what each does as someone joins. One that lets people in only once ends every
   * circle.
   */
  courses: ReadonlyMap<number, AtOnce>
}

export const NO_REACH: Reach = {
  coursesStartedBy: () => [], coursesStartedByList: () => [], coursesOfList: () => [], segments: new Map(), courses: new Map(),
}

/** A rule, or a course read as one: as someone joins it, it does this. */
interface Knot extends Rule {
  /** What comes about besides what is done. */
  also?: Outcome[]
}

/** Tells a course from every rule. */
const COURSES_FROM = -1_000_000

export const courseAsRule = (courseId: number, { then, finishes }: AtOnce): Rule => ({
  id: COURSES_FROM - courseId, when: { kind: 'enrolled', thingId: courseId }, who: EVERYBODY, then, often: { kind: 'each' }, on: true,
  note: '',
  ...finishes && { also: [{ kind: 'finished-course', thingId: courseId }] },
} satisfies Knot)

/** Something that may come of an action at once; a null thing is any. */
type Outcome = Pick<Trigger, 'kind' | 'thingId'>

function outcomesOf(action: Action, reach: Reach): Outcome[] {
  const of = (kind: Trigger['kind'], thingId: number | null): Outcome => ({ kind, thingId })
  switch (action.kind) {
    case 'give-tag': return [
      of('got-tag', action.tagId), ...reach.coursesStartedBy(action.tagId).map(id => of('enrolled', id)),
      ...segmentsNaming(leaf => leaf.kind === 'tag' && leaf.tagId === action.tagId, reach),
    ]
    case 'take-tag': return [
      of('lost-tag', action.tagId), ...segmentsNaming(leaf => leaf.kind === 'tag' && leaf.tagId === action.tagId, reach),
    ]
    case 'join-list': return [
      of('joined-list', action.listId), ...reach.coursesStartedByList(action.listId).map(id => of('enrolled', id)),
      ...segmentsNaming(leaf => leaf.kind === 'list' && leaf.listId === action.listId, reach),
    ]
    case 'leave-list': return [
      of('left-list', action.listId), ...reach.coursesOfList(action.listId).map(id => of('left-course', id)),
      ...segmentsNaming(leaf => leaf.kind === 'list' && leaf.listId === action.listId, reach),
    ]
    case 'set-field': return [
      of('field-changed', action.fieldId), of('date-arrived', action.fieldId),
      ...segmentsNaming(leaf => leaf.kind === 'field' && leaf.fieldId === action.fieldId, reach),
    ]
    case 'score': return [...action.points > 0 ? [of('reached-score', null)] : [], ...segmentsNaming(leaf => leaf.kind === 'score', reach)]
    case 'status': return [
      ...action.to === 'unsubscribed' ? [of('left-course', null)] : [],
      ...segmentsNaming(leaf => leaf.kind === 'status' || leaf.kind === 'may-be-mailed', reach),
    ]
    case 'enrol': return [
      of('enrolled', action.courseId), ...segmentsNaming(leaf => leaf.kind === 'course' && leaf.courseId === action.courseId, reach),
    ]
    case 'leave-course': return [
      of('left-course', action.courseId), ...segmentsNaming(leaf => leaf.kind === 'course' && leaf.courseId === action.courseId, reach),
    ]
    case 'no-more': return segmentsNaming(leaf => leaf.kind === 'no-more' && leaf.offerId === action.offerId, reach)
    case 'email': return [of('sent', null)]
    default: return []
  }
}

/** Segments that ask for it, themselves or by another: people may come in, and go out. */
function segmentsNaming(asks: (leaf: Leaf) => boolean, { segments }: Reach): Outcome[] {
  const found = [...segments].filter(([id]) => leavesThrough(id, segments).some(asks)).map(([id]) => id)
  return found.flatMap((thingId): Outcome[] => [{ kind: 'entered-segment', thingId }, { kind: 'left-segment', thingId }])
}

function leavesThrough(id: number, segments: Reach['segments'], seen = new Set<number>()): Leaf[] {
  const condition = segments.get(id)
  if (!condition || seen.has(id)) return []
  seen.add(id)
  return leavesOf(condition).flatMap(leaf => leaf.kind === 'segment' ? leavesThrough(leaf.segmentId, segments, seen) : [leaf])
}

function wakes(outcome: Outcome, when: Trigger, from: Rule): boolean {
  if (outcome.kind !== when.kind || (when.thingId !== null && outcome.thingId !== null && when.thingId !== outcome.thingId)) return false
  // A loss by time, and another value than the one that is set, are not what the action brings about.
  if (when.kind === 'lost-tag') return !when.expired
  if (when.kind === 'sent') return !when.which || (when.which.kind === 'rule' && when.which.ownerId === from.id)
  if (when.kind === 'field-changed' && when.to !== undefined && when.to !== null) return from.then.some(action =>
    action.kind === 'set-field' && action.fieldId === when.thingId && (action.today || String(action.value) === String(when.to)))
  if (when.kind === 'date-arrived') {
    return from.then.some(action => action.kind === 'set-field' && action.fieldId === when.thingId && action.value !== null)
  }
  return true
}

/**
 * The shortest path on which a rule would come to wake itself: it, what it wakes, and so on, it again at the end.
 * Whether the conditions on the way hold for anybody is not asked. Null if there is none.
 */
export function circleThrough(rule: Rule, others: readonly Rule[], reach: Reach): Rule[] | null {
  const courses = [...reach.courses].map(([id, atOnce]) => courseAsRule(id, atOnce))
  const all: Knot[] = [rule, ...[...others, ...courses].filter(({ id, on }) => id !== rule.id && on)]
  const outcomes = (from: Knot) => [...from.then.flatMap(action => outcomesOf(action, reach)), ...from.also ?? []]
  const next = (from: Knot) => {
    const known = outcomes(from)
    return all.filter(to => known.some(outcome => wakes(outcome, to.when, from)))
  }
  const cameFrom = new Map<Rule, Rule | null>([[rule, null]])
  const queue = [rule]
  for (let from = queue.shift(); from; from = queue.shift()) {
    for (const to of next(from)) {
      if (to === rule) return [...pathTo(from, cameFrom), rule]
      if (cameFrom.has(to)) continue
      cameFrom.set(to, from)
      queue.push(to)
    }
  }
  return null
}

/** Any circle among these, each rule tried in its order. */
export function circleAmong(rules: readonly Rule[], reach: Reach): Rule[] | null {
  for (const rule of rules) {
    const found = rule.on ? circleThrough(rule, rules, reach) : null
    if (found) return found
  }
  return null
}

function pathTo(end: Rule, cameFrom: ReadonlyMap<Rule, Rule | null>): Rule[] {
  const path: Rule[] = []
  for (let at: Rule | null = end; at; at = cameFrom.get(at) ?? null) path.unshift(at)
  return path
}

/**
 * A tag that would take itself away by what follows from getting it: the short forms are refused then. Pairs of who gives and what undoes
 * it.
 */
export function undoneBy(rule: Rule, others: readonly Rule[], reach: Reach): Rule[] | null {
  if (rule.when.kind !== 'got-tag') return null
  const undoing: Rule = {
    ...rule, id: -1, when: { kind: 'lost-tag', thingId: rule.when.thingId }, then: [{ kind: 'give-tag', tagId: rule.when.thingId! }],
  }
  const found = circleThrough(rule, [...others.filter(({ id }) => id !== rule.id), undoing], reach)
  return found && found.some(({ id }) => id === -1) ? found.filter(({ id }) => id !== -1) : null
}
