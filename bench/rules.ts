/** Two hundred house rules: events matched in memory, and with everything they do saved. */
import type { Condition } from '#core/audience/condition'
import { holds, type PersonFacts } from '#core/audience/meaning'
import { diceOf } from '#core/dice'
import { newRule, type Action, type Rule, type RuleInput, type When } from '#core/rules/rule'
import { indexRules, wokenBy, type Happening } from '#core/rules/waking'
import { factsOf } from '#data/audience'
import { appendEvent } from '#data/events'
import { insertRule } from '#data/rules'
import type { House } from '#usecases/house'
import { momentOf } from '#usecases/inner/moment'
import { write } from '#usecases/inner/transaction'
import { timed } from './measure'

const RULES = 200
const PEOPLE = 2000
/** As many events in one transaction as the engine takes steps at a time. */
const BATCH = 200

interface Furniture { tagIds: number[], listIds: number[], courseIds: number[], pageIds: number[] }

/** Rules on the events that come most, each for people with something of their own, doing one or two things. */
export function manyRules({ tagIds, listIds, courseIds, pageIds }: Furniture): RuleInput[] {
  const dice = diceOf(200)
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  const whens: (() => When)[] = [
    () => ({ kind: 'got-tag', thingId: pick(tagIds) }), () => ({ kind: 'opted-in', thingId: pick([null, ...pageIds]) }), () => ({ kind: 'opened', thingId: pick([null, ...courseIds]) }),
    () => ({ kind: 'sent', thingId: pick(courseIds) }), () => ({ kind: 'joined-list', thingId: pick(listIds) }), () => ({ kind: 'finished-course', thingId: pick(courseIds) }),
  ]
  const leaves: (() => Condition)[] = [
    () => ({ kind: 'tag', tagId: pick(tagIds), since: null }), () => ({ kind: 'list', listId: pick(listIds), is: 'joined' }), () => ({ kind: 'country', is: ['PT', 'DE'], unknown: false }), () => ({ kind: 'score', atLeast: 5 }),
    () => ({ kind: 'email', fate: 'opened', which: null, within: { kind: 'last-days', days: 90 }, times: 2, url: null }), () => ({ kind: 'arrived', when: { kind: 'last-days', days: 365 } }),
  ]
  const actions: (() => Action)[] = [() => ({ kind: 'give-tag', tagId: pick(tagIds) }), () => ({ kind: 'take-tag', tagId: pick(tagIds) }), () => ({ kind: 'score', points: 1 }), () => ({ kind: 'join-list', listId: pick(listIds) })]
  return Array.from({ length: RULES }, (_, n) => ({
    ...newRule(pick(whens)(), Array.from({ length: 1 + n % 2 }, () => pick(actions)())),
    who: { kind: 'all', of: [{ kind: 'any', of: [pick(leaves)(), pick(leaves)()] }, { kind: 'none', of: [pick(leaves)()] }] },
  }))
}

const NOTHING: Omit<Happening, 'kind'> = { pageId: null, listId: null, tagIds: [], courseId: null, stepId: null, linkId: null, fieldId: null, from: null, to: null, offerId: null, segmentId: null, hookId: null, detail: null, text: null }

/** The events of a usual day, over people of this workspace. */
function* happenings({ tagIds, listIds, courseIds, pageIds }: Furniture): Generator<Happening> {
  const dice = diceOf(7)
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  for (;;) {
    const roll = dice()
    if (roll < 0.4) yield { ...NOTHING, kind: 'opened', courseId: pick(courseIds), stepId: 'one', detail: 'reader' }
    else if (roll < 0.7) yield { ...NOTHING, kind: 'sent', courseId: pick(courseIds), stepId: 'one' }
    else if (roll < 0.85) yield { ...NOTHING, kind: 'got-tag', tagIds: [pick(tagIds)] }
    else if (roll < 0.95) yield { ...NOTHING, kind: 'opted-in', pageId: pick(pageIds) }
    else yield { ...NOTHING, kind: 'joined-list', listId: pick(listIds) }
  }
}

const perSecond = (n: number, took: number) => Math.round(n / (took / 1000)).toLocaleString('en-GB')

export function measureRules(house: House, furniture: Furniture): string[] {
  const { db } = house
  const inputs = manyRules(furniture)
  const ids = db.prepare<[], number>(`SELECT id FROM people WHERE gone IS NULL ORDER BY (id * 7919) % 1000003 LIMIT ${PEOPLE}`).pluck().all()

  const index = indexRules(inputs.map((rule, n): Rule => ({ ...rule, id: n + 1 })))
  const people = ids.map(id => factsOf(db, id)).filter((facts): facts is PersonFacts => facts !== undefined)
  const moment = momentOf(db, house.clock.now())
  const source = happenings(furniture)
  let [woken, fits] = [0, 0]
  const EVENTS = 40_000
  const { ms: matching } = timed(() => {
    for (let n = 0; n < EVENTS; n++) {
      for (const rule of wokenBy(index, source.next().value as Happening)) {
        woken++
        if (holds(rule.who, people[n % people.length]!, moment)) fits++
      }
    }
  })

  const before = db.prepare<[], number>('SELECT count(*) FROM rule_firings').pluck().get()!
  db.transaction(() => { for (const rule of inputs) insertRule(db, rule, house.clock.now()) }).immediate()
  const SAVED = 6000
  const { ms: saving } = timed(() => {
    for (let n = 0; n < SAVED; n += BATCH) {
      write(house, () => {
        for (let k = 0; k < BATCH; k++) {
          const { kind, pageId, listId, courseId, stepId, tagIds, detail } = source.next().value as Happening
          appendEvent(db, kind, house.clock.now(), { personId: ids[(n + k) % ids.length]!, ...pageId !== null && { pageId }, ...listId !== null && { listId }, ...courseId !== null && { courseId }, ...stepId !== null && { stepId }, ...tagIds[0] !== undefined && { tagId: tagIds[0] }, ...detail !== null && { detail } })
        }
      })
    }
  })
  const acted = db.prepare<[], number>('SELECT count(*) FROM rule_firings').pluck().get()! - before
  db.prepare('UPDATE rules SET ended_at = 1, is_on = 0').run()
  return [
    `${EVENTS.toLocaleString('en-GB')} events woke ${woken.toLocaleString('en-GB')} of ${RULES} rules, of which ${fits.toLocaleString('en-GB')} fitted: ${perSecond(EVENTS, matching)} events a second matched in memory (promised: 5,000).`,
    `${SAVED.toLocaleString('en-GB')} events, ${BATCH} in a transaction, on which rules acted ${acted.toLocaleString('en-GB')} times: ${perSecond(SAVED, saving)} events a second with everything saved (promised: 1,500).`,
  ]
}
