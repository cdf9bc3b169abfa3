/** The short forms in which rules stand on a tag or a list: what follows from getting it, losing it, joining it. */
import { dequal } from 'dequal'
import type { Action, Rule, RuleInput } from './rule'
import { asksNothing, newRule } from './rule'

export interface Follows {
  /** Whoever gets the tag also gets these, */
  gives: number[]
  /** and loses these. */
  takes: number[]
  /** Whoever loses the tag also loses these. */
  drops: number[]
}

export const NOTHING_FOLLOWS: Follows = { gives: [], takes: [], drops: [] }

/** One rule for each that follows. */
export function rulesOfTag(tagId: number, { gives, takes, drops }: Follows): RuleInput[] {
  const rule = (kind: 'got-tag' | 'lost-tag', does: 'give-tag' | 'take-tag') =>
    (other: number) => newRule({ kind, thingId: tagId }, [{ kind: does, tagId: other }])
  return [...gives.map(rule('got-tag', 'give-tag')), ...takes.map(rule('got-tag', 'take-tag')), ...drops.map(rule('lost-tag', 'take-tag'))]
}

/** True for a rule that says no more than a short form of its tag does. */
export function isShortForm(rule: RuleInput): boolean {
  const { when, who, then, often, on } = rule
  return (when.kind === 'got-tag' || (when.kind === 'lost-tag' && !when.expired))
    && asksNothing(who) && often.kind === 'each' && on && then.length === 1
    && (then[0]!.kind === 'take-tag' || (then[0]!.kind === 'give-tag' && when.kind === 'got-tag'))
}

/** The inverse, of all the rules of a workspace. */
export function followsOf(tagId: number, rules: readonly RuleInput[]): Follows {
  const own = rules.filter(rule => rule.when.thingId === tagId && isShortForm(rule))
  const others = (when: RuleInput['when']['kind'], kind: Action['kind']) => own.filter(rule => rule.when.kind === when)
    .flatMap(rule => rule.then.flatMap(action => action.kind === kind && 'tagId' in action ? [action.tagId] : []))
  return { gives: others('got-tag', 'give-tag'), takes: others('got-tag', 'take-tag'), drops: others('lost-tag', 'take-tag') }
}

/** Being on a list means being on another, too, perhaps only once a course is finished. */
export interface AlsoOn { listId: number, afterCourseId: number | null }

/** At once with joining; or with whichever comes last, joining or the end of the course. */
export function rulesOfList(listId: number, alsoOn: readonly AlsoOn[]): RuleInput[] {
  return alsoOn.flatMap(({ listId: other, afterCourseId }): RuleInput[] => {
    const then: Action[] = [{ kind: 'join-list', listId: other }]
    if (afterCourseId === null) return [newRule({ kind: 'joined-list', thingId: listId }, then)]
    return [
      { ...newRule({ kind: 'finished-course', thingId: afterCourseId }, then), who: onList(listId) },
      { ...newRule({ kind: 'joined-list', thingId: listId }, then), who: finished(afterCourseId) },
    ]
  })
}

/** The inverse. What only one of the pair of rules says is no short form. */
export function alsoOnOf(listId: number, rules: readonly RuleInput[]): AlsoOn[] {
  const plain = rules.filter(({ on, often, then }) => on && often.kind === 'each' && then.length === 1 && then[0]!.kind === 'join-list')
  return plain.filter(({ when }) => when.kind === 'joined-list' && when.thingId === listId).flatMap(({ who, then }): AlsoOn[] => {
    const other = (then[0] as { listId: number }).listId
    if (asksNothing(who)) return [{ listId: other, afterCourseId: null }]
    const pair = plain.find(rule => rule.when.kind === 'finished-course' && rule.when.thingId !== null && (rule.then[0] as {
      listId: number,
    }).listId === other
      && dequal(rule.who, onList(listId)) && dequal(who, finished(rule.when.thingId)))
    return pair ? [{ listId: other, afterCourseId: pair.when.thingId }] : []
  })
}

const onList = (listId: number) => ({ kind: 'all' as const, of: [{ kind: 'list' as const, listId, is: 'joined' as const }] })
const finished = (courseId: number) => ({
  kind: 'all' as const, of: [{ kind: 'course' as const, courseId, is: 'finished' as const, stepId: null }],
})
/** What has to be deleted and made for the short forms to say `wanted`; a rule that stays keeps its number and its place. */
export function changesOf(own: readonly Rule[], wanted: readonly RuleInput[]): { gone: Rule[], made: RuleInput[] } {
  const says = ({ when, who, then, often, on }: RuleInput) => JSON.stringify([when, asksNothing(who) ? null : who, then, often, on])
  return {
    gone: own.filter(rule => !wanted.some(one => says(one) === says(rule))),
    made: wanted.filter(one => !own.some(rule => says(rule) === says(one))),
  }
}
