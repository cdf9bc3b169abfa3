/**
 * Chains of house rules against a second, slow way of computing them: written
 * from the law alone (design, section 7), on plain sets, without a database and
 * without any code of the first way. Circles included.
 */
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { EVERYBODY, type Condition, type Leaf } from '#core/audience/condition'
import { newRule, type Action, type RuleInput } from '#core/rules/rule'
import { membership, tagsOfPerson } from '#data/marks'
import { firingsOfRule, insertRule } from '#data/rules'
import { scoreOf } from '#data/scores'
import { giveTagByHand, joinListByHand, leaveListByHand, takeTagByHand } from '#usecases/know/byHand'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { insertPerson } from '#data/people'
import { openContext, tag, thursdayNoon } from '../service/workshop'

const TAGS = 3
const LISTS = 1

/** An event or an action, as plain words: `+t3` gives tag 3, `-l1` leaves list 1; as an action `+s2` adds 2 points. */
interface Word { sign: '+' | '-', kind: 't' | 'l', n: number }
interface Points { sign: '+' | '-', kind: 's', n: number }
/** `s` asks for so many points, `r` whether the rule of that place has acted, ever. */
interface Need { kind: 't' | 'l' | 's' | 'r', n: number, has: boolean }
interface PlainRule { when: Word, needs: Need | null, then: (Word | Points)[], often: 'each' | 'once' }

/** The obvious machine: a queue of events, each wakes every rule in order; from one root a rule acts once; twenty deep and no deeper. */
function slowly(rules: PlainRule[], steps: Word[]): { state: string[], times: number[], points: number } {
  const has = new Set<string>()
  const times = rules.map(() => 0)
  let points = 0
  /** Taking off and putting back are the owner's and the rules' alone here: nobody leaves of their own accord. */
  const same = (a: Word, b: Word) => a.sign === b.sign && a.kind === b.kind && a.n === b.n
  const change = (word: Word): boolean => {
    const key = word.kind + word.n
    if (has.has(key) === (word.sign === '+')) return false
    if (word.sign === '+') has.add(key)
    else has.delete(key)
    return true
  }
  const meets = ({ kind, n }: Need) => kind === 's' ? points >= n : kind === 'r' ? (times[n] ?? 0) > 0 : has.has(kind + n)
  for (const step of steps) {
    if (!change(step)) continue
    const acted = new Set<number>()
    const queue: { word: Word, depth: number }[] = [{ word: step, depth: 0 }]
    for (let event = queue.shift(); event; event = queue.shift()) {
      for (const [n, rule] of rules.entries()) {
        if (!same(rule.when, event.word)) continue
        if (rule.needs && meets(rule.needs) !== rule.needs.has) continue
        if (acted.has(n) || (rule.often === 'once' && times[n]! > 0) || event.depth >= 20) continue
        acted.add(n)
        times[n]! += 1
        for (const word of rule.then) {
          if (word.kind === 's') points += word.sign === '+' ? word.n : -word.n
          else if (change(word)) queue.push({ word, depth: event.depth + 1 })
        }
      }
    }
  }
  return { state: [...has].sort(), times, points }
}

const word = fc.oneof(
  fc.record<Word>({ sign: fc.constantFrom('+', '-'), kind: fc.constant('t'), n: fc.integer({ min: 0, max: TAGS - 1 }) }),
  fc.record<Word>({ sign: fc.constantFrom('+', '-'), kind: fc.constant('l'), n: fc.integer({ min: 0, max: LISTS - 1 }) }),
)
const points = fc.record<Points>({ sign: fc.constantFrom('+', '+', '-'), kind: fc.constant('s'), n: fc.integer({ min: 1, max: 3 }) })
const plainRule = fc.record<PlainRule>({
  when: word, then: fc.array(fc.oneof({ weight: 3, arbitrary: word }, { weight: 1, arbitrary: points }), { minLength: 1, maxLength: 3 }),
  often: fc.constantFrom('each', 'each', 'each', 'once'),
  needs: fc.option(fc.oneof(...([['t', 0, TAGS - 1], ['l', 0, LISTS - 1], ['s', 1, 5], ['r', 0, 3]] as const).map(([kind, min, max]) =>
    fc.record<Need>({ kind: fc.constant(kind), n: fc.integer({ min, max }), has: fc.boolean() }))), { freq: 2 }),
})

it('end the same by both ways, for generated rules and stories', () => {
  const context = openContext()
  const { db } = context
  const tags = Array.from({ length: TAGS }, (_, n) => saveTag(context, null, tag(`t${n}`)))
  const lists = Array.from({ length: LISTS }, (_, n) => saveList(context, null, { name: `l${n}`, publicName: `L${n}`, description: '' }))
  const action = ({ sign, kind, n }: Word | Points): Action => kind === 's' ? {
    kind: 'score', points: sign === '+' ? n : -n,
  } : kind === 't'
    ? { kind: sign === '+' ? 'give-tag' : 'take-tag', tagId: tags[n]! }
    : { kind: sign === '+' ? 'join-list' : 'leave-list', listId: lists[n]! }
  const leafOf = ({ kind, n }: Need, firstId: number): Leaf => kind === 't' ? { kind: 'tag', tagId: tags[n]!, since: null } : kind === 'l'
    ? { kind: 'list', listId: lists[n]!, is: 'joined' }
    : kind === 's' ? { kind: 'score', atLeast: n } : { kind: 'rule-acted', ruleId: firstId + n, within: null }
  const asRule = ({ when, needs, then, often }: PlainRule, firstId: number): RuleInput => {
    const who: Condition = needs ? { kind: needs.has ? 'all' : 'none', of: [leafOf(needs, firstId)] } : EVERYBODY
    return { ...newRule(when.kind === 't'
      ? { kind: when.sign === '+' ? 'got-tag' : 'lost-tag', thingId: tags[when.n]! }
      : { kind: when.sign === '+' ? 'joined-list' : 'left-list', thingId: lists[when.n]! }, then.map(action)), who, often: { kind: often } }
  }
  const byHand = (id: number, { sign, kind, n }: Word) => {
    if (kind === 't') (sign === '+' ? giveTagByHand : takeTagByHand)(context, id, tags[n]!)
    else if (sign === '+') joinListByHand(context, id, lists[n]!)
    else if (membership(db, lists[n]!, id) === 'joined') leaveListByHand(context, id, lists[n]!)
  }
  let people = 0
  let woke = 0
  fc.assert(fc.property(fc.array(plainRule, {
    minLength: 4, maxLength: 12,
  }), fc.array(word, { minLength: 3, maxLength: 8 }), (rules, steps) => {
    db.prepare('UPDATE rules SET ended_at = 1').run()
    const firstId = db.prepare<[], number>('SELECT coalesce(max(id), 0) + 1 FROM rules').pluck().get()!
    const ids = rules.map(rule => insertRule(db, asRule(rule, firstId), thursdayNoon))
    const n = ++people
    const id = insertPerson(db, {
      address: `p${n}@example.com`, addressKey: `p${n}@example.com`, firstName: '', status: 'active', zone: null, country: null,
      source: 'import:x', createdAt: thursdayNoon, consentAt: null,
    })
    for (const step of steps) byHand(id, step)
    const expected = slowly(rules, steps)
    const state = [
      ...tagsOfPerson(db, id).map(({ name }) => name),
      ...lists.flatMap((listId, at) => membership(db, listId, id) === 'joined' ? [`l${at}`] : []),
    ].sort()
    const times = ids.map(ruleId => firingsOfRule(db, ruleId, 100).length)
    if (times.reduce((sum, one) => sum + one, 0) > 2) woke++
    expect({ state, times, points: scoreOf(db, id)?.value ?? 0 }).toEqual(expected)
  }), { numRuns: 800 })
  // Stories in which nothing came of anything would prove little.
  expect(woke).toBeGreaterThan(300)
})
