/** Two hundred house rules: events matched in memory, and with everything they do saved. */
import type { Condition } from '#core/audience/condition'
import { holds, type PersonFacts } from '#core/audience/meaning'
import { diceOf } from '#core/dice'
import { newRule, TRIGGERS, type Action, type Rule, type RuleInput, type Trigger, type TriggerKind } from '#core/rules/rule'
import { indexRules, wokenBy, type RuleEvent } from '#core/rules/waking'
import { lazyFacts } from '#data/audience'
import { appendEvent, lastEventId } from '#data/events'
import { insertRule } from '#data/rules'
import type { WorkspaceContext } from '#usecases/context'
import { momentOf } from '#usecases/inner/moment'
import { transact } from '#usecases/inner/reactor/transaction'
import { ratio, timed } from './measure'

const RULES = 200
const PEOPLE = 2000
/** As many events in one transaction as the engine takes steps at a time. */
const BATCH = 200

interface Furniture { tagIds: number[], listIds: number[], courseIds: number[], pageIds: number[] }

/** What happens on a usual day, with its share of a hundred, and what it is about. */
const USUAL: [kind: TriggerKind, share: number, of: keyof Furniture | null][] = [
  ['opened', 34, 'courseIds'], ['sent', 24, 'courseIds'], ['got-tag', 12, 'tagIds'], ['opted-in', 8, 'pageIds'],
  ['visited-page', 5, 'pageIds'], ['joined-list', 4, 'listIds'], ['enrolled', 4, 'courseIds'],
  ['finished-course', 2, 'courseIds'], ['lost-tag', 2, 'tagIds'], ['left-list', 2, 'listIds'], ['confirmed', 1, 'pageIds'],
  ['left-course', 1, 'courseIds'], ['replied', 1, null],
]

/**
 * As many rules for each kind of event, one in eight of them about any thing of its kind; each for people with something of their own,
 * doing one or two things.
 */
export function manyRules(furniture: Furniture): RuleInput[] {
  const { tagIds, listIds } = furniture
  const dice = diceOf(200)
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  const whens = USUAL.map(([kind, , of]) => (): Trigger => {
    const id = of === null || (TRIGGERS[kind].any && dice() < 1 / 8) ? null : pick(furniture[of])
    if (!TRIGGERS[kind].ofSend) return { kind, thingId: id }
    return { kind, thingId: null, which: id === null ? null : { kind: 'course', ownerId: id, itemId: null } }
  })
  const leaves: (() => Condition)[] = [
    () => ({ kind: 'tag', tagId: pick(tagIds), since: null }), () => ({ kind: 'list', listId: pick(listIds), is: 'joined' }),
    () => ({ kind: 'country', is: ['PT', 'DE'], unknown: false }), () => ({ kind: 'score', atLeast: 5 }),
    () => ({ kind: 'email', fate: 'opened', which: null, within: { kind: 'last-days', days: 90 }, times: 2, url: null }),
    () => ({ kind: 'arrived', when: { kind: 'last-days', days: 365 } }),
  ]
  const actions: (() => Action)[] = [
    () => ({ kind: 'give-tag', tagId: pick(tagIds) }), () => ({ kind: 'take-tag', tagId: pick(tagIds) }),
    () => ({ kind: 'score', points: 1 }), () => ({ kind: 'join-list', listId: pick(listIds) }),
  ]
  return Array.from({ length: RULES }, (_, n) => ({
    ...newRule(whens[n % whens.length]!(), Array.from({ length: 1 + n % 2 }, () => pick(actions)())),
    who: { kind: 'all', of: [{ kind: 'any', of: [pick(leaves)(), pick(leaves)()] }, { kind: 'none', of: [pick(leaves)()] }] },
  }))
}

const NOTHING: Omit<RuleEvent, 'kind'> = {
  pageId: null, listId: null, tagIds: [], courseId: null, stepId: null, send: null, linkId: null, fieldId: null, from: null, to: null,
  offerId: null, segmentId: null, hookId: null, detail: null, text: null,
}

/** The events of a usual day, over people of this workspace. */
function* happenings(furniture: Furniture): Generator<RuleEvent> {
  const dice = diceOf(7)
  for (;;) {
    let roll = dice() * 100
    const [kind, , of] = USUAL.find(([, share]) => (roll -= share) < 0) ?? USUAL[0]!
    const id = of === null ? null : furniture[of][Math.floor(dice() * furniture[of].length)]!
    yield {
      ...NOTHING, kind, ...of === 'courseIds' && { courseId: id },
      ...TRIGGERS[kind].ofSend && { stepId: 'one', send: { kind: 'course', ownerId: id!, itemId: 'one' } },
      ...of === 'pageIds' && { pageId: id }, ...of === 'listIds' && { listId: id },
      ...of === 'tagIds' && { tagIds: [id!] }, ...(kind === 'opened' || kind === 'visited-page') && { detail: 'reader' },
    }
  }
}

const perSecond = (n: number, took: number) => Math.round(n / (took / 1000)).toLocaleString('en-GB')

export function measureRules(context: WorkspaceContext, furniture: Furniture): string[] {
  const { db } = context
  const inputs = manyRules(furniture)
  const ids = db.prepare<[], number>(`SELECT id FROM people WHERE gone IS NULL ORDER BY (id * 7919) % 1000003 LIMIT ${PEOPLE}`).pluck()
    .all()

  const index = indexRules(inputs.map((rule, n): Rule => ({ ...rule, id: n + 1 })))
  const people = ids.map(id => lazyFacts(db, id)).filter((facts): facts is PersonFacts => facts !== undefined)
  const moment = momentOf(db, context.clock.now())
  const source = happenings(furniture)
  // Loads their facts before the measurement.
  for (const person of people) for (const { who } of inputs) holds(who, person, moment)
  let [woken, fits] = [0, 0]
  const EVENTS = 40_000
  const { ms: matching } = timed(() => {
    for (let n = 0; n < EVENTS; n++) {
      for (const rule of wokenBy(index, source.next().value as RuleEvent)) {
        woken++
        if (holds(rule.who, people[n % people.length]!, moment)) fits++
      }
    }
  })

  const before = db.prepare<[], number>('SELECT count(*) FROM rule_firings').pluck().get()!
  db.transaction(() => { for (const rule of inputs) insertRule(db, rule, context.clock.now()) }).immediate()
  // Enough that the compiler has warmed up, as in an engine that runs for days.
  const SAVED = 24_000
  const lastBefore = {
    event: lastEventId(db), firing: db.prepare<[], number>('SELECT coalesce(max(id), 0) FROM rule_firings').pluck().get()!,
  }
  const { ms: saving } = timed(() => {
    for (let n = 0; n < SAVED; n += BATCH) {
      transact(context, () => {
        for (let k = 0; k < BATCH; k++) {
          const { kind, pageId, listId, courseId, stepId, tagIds, detail } = source.next().value as RuleEvent
          appendEvent(db, kind, context.clock.now(), {
            personId: ids[(n + k) % ids.length]!, ...pageId !== null && { pageId }, ...listId !== null && { listId },
            ...courseId !== null && { courseId }, ...stepId !== null && { stepId }, ...tagIds[0] !== undefined && { tagId: tagIds[0] },
            ...detail !== null && { detail },
          })
        }
      })
    }
  })
  const acted = db.prepare<[], number>('SELECT count(*) FROM rule_firings').pluck().get()! - before
  const bare = writeBare(context, lastBefore, BATCH)
  db.prepare('UPDATE rules SET ended_at = 1, is_on = 0').run()
  return [
    `${RULES} rules, each with a condition: ${EVENTS.toLocaleString('en-GB')} events woke ${(woken / EVENTS).toFixed(1)} of them each, of which ${(fits / EVENTS).toFixed(1)} fitted: ${perSecond(EVENTS, matching)} events a second matched in memory (promised: 5,000).`,
    `${SAVED.toLocaleString('en-GB')} events, ${BATCH} in a transaction, on which rules acted ${acted.toLocaleString('en-GB')} times: ${perSecond(SAVED, saving)} events a second with everything saved (promised: 1,500), ${perSecond(acted, saving)} actings; ${ratio(bare / saving)} of what writing the same events, actings and points by bare statements reaches.`,
  ]
}

/**
 * Writes once more, by prepared statements alone, the events, actings and points that were written since: nothing is read or decided. In
 * milliseconds.
 */
function writeBare({ db }: WorkspaceContext, since: { event: number, firing: number }, batch: number): number {
  const again = (table: string, where: string, after: number) => {
    const columns = db.prepare<[], { name: string }>(`SELECT name FROM pragma_table_info('${table}') WHERE name <> 'id'`).all()
      .map(({ name }) => name).join(', ')
    const rows = db.prepare<[number], unknown[]>(`SELECT ${columns} FROM ${table} WHERE ${where} > ? ORDER BY ${where}`).raw().all(after)
    return { rows, insert: db.prepare(`INSERT INTO ${table} (${columns}) VALUES (${columns.replace(/\w+/g, '?')})`) }
  }
  const tables = [
    again('events', 'id', since.event), again('rule_firings', 'id', since.firing), again('given_points', 'event_id', since.event),
  ]
  const turns = Math.ceil(tables[0]!.rows.length / (2.2 * batch))
  const write = db.transaction((turn: number) => {
    for (const { rows, insert } of tables) {
      for (const row of rows.slice(Math.floor(rows.length * turn / turns), Math.floor(rows.length * (turn + 1) / turns))) insert.run(...row)
    }
  })
  return timed(() => { for (let turn = 0; turn < turns; turn++) write.immediate(turn) }).ms
}
