/**
 * House rules: when something happens to someone, something follows at once.
 * So far they are made in their short forms, on a tag: giving it also gives
 * another, giving it takes another away, losing it also loses another.
 */

export type Happening = { kind: 'got-tag' | 'lost-tag', tagId: number }
export type Action = { kind: 'give-tag' | 'take-tag', tagId: number }

export interface Rule {
  id: number
  when: Happening
  /** In order. */
  then: Action[]
}

/** What has come of one root event for one person so far. The set is shared by everything that comes of it. */
export interface Chain {
  acted: Set<number>
  /** How many rules lie between the root event and this one. */
  depth: number
}

/** A chain of rules goes so deep and no deeper. */
export const DEEPEST_CHAIN = 20

/** The rules that a happening wakes, in their order. From one root event each acts at most once; what lies too deep is cut off. */
export function wokenBy(rules: Rule[], chain: Chain): { act: Rule[], cut: Rule[] } {
  const fresh = rules.filter(rule => !chain.acted.has(rule.id))
  return chain.depth < DEEPEST_CHAIN ? { act: fresh, cut: [] } : { act: [], cut: fresh }
}

/* The short forms of a tag */

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
export function rulesOfTag(tagId: number, { gives, takes, drops }: Follows): Omit<Rule, 'id'>[] {
  const rule = (when: Happening['kind'], kind: Action['kind']) => (other: number): Omit<Rule, 'id'> => ({ when: { kind: when, tagId }, then: [{ kind, tagId: other }] })
  return [...gives.map(rule('got-tag', 'give-tag')), ...takes.map(rule('got-tag', 'take-tag')), ...drops.map(rule('lost-tag', 'take-tag'))]
}

/** The inverse, of all the rules of a tag. */
export function followsOf(tagId: number, rules: Rule[]): Follows {
  const others = (when: Happening['kind'], kind: Action['kind']) => rules
    .filter(rule => rule.when.kind === when && rule.when.tagId === tagId)
    .flatMap(rule => rule.then.filter(action => action.kind === kind).map(action => action.tagId))
  return { gives: others('got-tag', 'give-tag'), takes: others('got-tag', 'take-tag'), drops: others('lost-tag', 'take-tag') }
}

/* Circles */

const outcomeOf = (action: Action): Happening => ({ kind: action.kind === 'give-tag' ? 'got-tag' : 'lost-tag', tagId: action.tagId })
const key = ({ kind, tagId }: Happening) => `${kind} ${tagId}`

/**
 * A path by which a happening would bring itself about again, or by which
 * getting a tag would take that tag away. Null if there is none.
 */
export function circleIn(rules: Omit<Rule, 'id'>[]): Happening[] | null {
  const next = new Map<string, Happening[]>()
  for (const { when, then } of rules) next.set(key(when), [...next.get(key(when)) ?? [], ...then.map(outcomeOf)])
  for (const { when } of rules) {
    const seen = new Set<string>()
    const follow = (at: Happening, path: Happening[]): Happening[] | null => {
      for (const step of next.get(key(at)) ?? []) {
        const here = [...path, step]
        if (step.tagId === when.tagId) return here
        if (seen.has(key(step))) continue
        seen.add(key(step))
        const found = follow(step, here)
        if (found) return found
      }
      return null
    }
    const found = follow(when, [when])
    if (found) return found
  }
  return null
}

/** `getting “a” gives “b”, which takes away “a”` */
export function sayPath(path: Happening[], name: (tagId: number) => string): string {
  const [first, ...rest] = path
  const verb = ({ kind }: Happening) => kind === 'got-tag' ? 'gives' : 'takes away'
  return `${first!.kind === 'got-tag' ? 'getting' : 'losing'} “${name(first!.tagId)}” ${rest.map((step, n) => `${n > 0 ? 'which ' : ''}${verb(step)} “${name(step.tagId)}”`).join(', ')}`
}
