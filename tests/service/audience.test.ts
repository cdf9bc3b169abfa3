import fc from 'fast-check'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Condition, Leaf, Stretch, WhichEmail } from '#core/audience/condition'
import { EMAIL_FATES, EVERYBODY } from '#core/audience/condition'
import type { PersonFacts } from '#core/audience/meaning'
import { holds } from '#core/audience/meaning'
import { toSql } from '#core/audience/sql'
import { diceOf } from '#core/dice'
import type { Status } from '#core/people/status'
import { factsOf, peopleWhere } from '#data/audience'
import { type Database, openDatabase } from '#data/connection'
import { migrate } from '#data/migrate'
import { DAY, HOUR, temporaryFolder } from './workshop'

const NOW = Date.UTC(2026, 10, 26, 12)
const STATUSES: Status[] = ['pending', 'active', 'resting', 'unsubscribed', 'bounced', 'complained']
const SOURCES = ['page:sheet-kit', 'page:fold-sew-cover', 'import']
const STEPS = ['one', 'two', 'three']
const PEOPLE = 120

/** Times near the edges of the last few whole days, to the millisecond, and some far away. */
const timesNear = (dice: () => number) => NOW - Math.floor(dice() * 9) * DAY + [-1, 0, 1, 0, 3 * HOUR][Math.floor(dice() * 5)]!

let db: Database
let people: PersonFacts[]

/** People of every sort, put in row by row: here it is not how they came about that is tried, but what is asked of them. */
beforeAll(() => {
  db = openDatabase(join(temporaryFolder(), 'audience.db'))
  migrate(db, 0)
  const dice = diceOf(4711)
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  const put = (table: string, row: Record<string, unknown>) => Number(db.prepare(`INSERT INTO ${table} (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row).map(() => '?').join(', ')})`).run(...Object.values(row)).lastInsertRowid)
  db.transaction(() => {
    const event = put('events', { kind: 'opted-in', at: 0 })
    for (const id of [1, 2]) {
      put('lists', { id, name: `list ${id}`, public_name: `List ${id}`, created_at: 0 })
      put('tags', { id, name: `tag ${id}`, created_at: 0 })
      put('courses', { id, name: `course ${id}`, status: 'running', again: 'after-ending', draft: '{}', created_at: 0, changed_at: 0 })
      put('course_versions', { id, course_id: id, number: 1, program: '{}', source: '{}', published_at: 0 })
      for (const step of STEPS) put('messages', { course_id: id, step_id: step, digest: 'd', working_title: step, content: '{}', subject: '', html: '', text: '', created_at: 0 })
    }
    for (let n = 0; n < PEOPLE; n++) {
      const id = put('people', { id: 1 + n * 3, address: `p${n}@example.com`, address_key: `p${n}@example.com`, status: pick(STATUSES), source: pick(SOURCES), created_at: timesNear(dice) })
      for (const mark of [1, 2]) {
        if (dice() < 0.5) put('list_members', { list_id: mark, person_id: id, joined_at: 0, left_at: dice() < 0.4 ? NOW : null, event_id: event })
        if (dice() < 0.4) put('events', { kind: 'opted-in', at: timesNear(dice), person_id: id, page_id: mark })
        if (dice() < 0.5) put('tag_holdings', { tag_id: mark, person_id: id, since_at: timesNear(dice), event_id: event })
        for (let visit = 1; visit <= Math.floor(dice() * 3); visit++) {
          const status = visit === 1 ? pick(['open', 'finished', 'left'] as const) : pick(['finished', 'left'] as const)
          const enrolment = put('enrolments', { course_id: mark, person_id: id, visit, version_id: mark, status, joined_at: 0, previous_at: 0, step_id: status === 'open' ? pick(STEPS) : null, due_at: null, done_steps: '[]', own_act: 1, event_id: event })
          for (const [index, step] of STEPS.entries()) {
            if (dice() < 0.4) continue
            const state = pick(['handed over', 'handed over', 'handed over', 'held back', 'failed', 'queued', 'withdrawn'])
            const gone = state === 'handed over'
            const email = put('outbox', {
              kind: 'course', thing_id: mark, person_id: id, step_id: step, visit, purpose: 'first', message_id: 1 + (mark - 1) * 3 + index, enrolment_id: enrolment, list_id: mark, asked_for: 0, cause_id: event,
              planned_at: timesNear(dice), status: state, go_at: state === 'queued' || (state === 'failed' && dice() < 0.5) ? NOW : null, handed_over_at: gone ? timesNear(dice) : null, left_at: gone && dice() < 0.1 ? timesNear(dice) : null,
            })
            for (const [table, judgements] of [['opens', ['reader', 'prefetch', 'scanner']], ['clicks', ['reader', 'scanner', null]]] as const) {
              for (let times = Math.floor(dice() * 3); gone && times > 0; times--) {
                put(table, { outbox_id: email, at: timesNear(dice), judged: pick(judgements), event_id: event, ...(table === 'clicks' && { link_n: 0, suspect: 0, settle_at: 0 }) })
              }
            }
          }
        }
      }
    }
  })()
  people = Array.from({ length: PEOPLE }, (_, n) => factsOf(db, 1 + n * 3)!)
})
afterAll(() => db.close())

/* Trees of every shape */

const anyStretch: fc.Arbitrary<Stretch> = fc.oneof(
  fc.record({ kind: fc.constant('last-days' as const), days: fc.nat(9) }),
  fc.record({ kind: fc.constantFrom('before' as const, 'since' as const), at: fc.nat(8).chain(days => fc.constantFrom(-1, 0, 1).map(shift => NOW - days * DAY + shift)) }),
)
const anyMark = fc.integer({ min: 1, max: 3 }) // 3 is not there
const anyWhich: fc.Arbitrary<WhichEmail> = fc.option(fc.record({ courseId: anyMark, stepId: fc.option(fc.constantFrom(...STEPS, 'gone')) }))
const anyLeaf: fc.Arbitrary<Leaf> = fc.oneof(
  fc.record({ kind: fc.constant('status' as const), is: fc.subarray(STATUSES) }),
  fc.record({ kind: fc.constant('list' as const), listId: anyMark, is: fc.constantFrom('joined' as const, 'left' as const, 'never-joined' as const) }),
  fc.record({ kind: fc.constant('tag' as const), tagId: anyMark, since: fc.option(anyStretch) }),
  fc.record({ kind: fc.constant('source' as const), is: fc.constantFrom(...SOURCES, '\' OR 1=1 --') }),
  fc.record({ kind: fc.constant('arrived' as const), when: anyStretch }),
  fc.record({ kind: fc.constant('opted-in' as const), pageId: anyMark, within: fc.option(anyStretch) }),
  fc.record({ kind: fc.constant('email' as const), fate: fc.constantFrom(...EMAIL_FATES), which: anyWhich, within: fc.option(anyStretch), times: fc.nat(4) }),
  fc.record({ kind: fc.constant('read' as const), within: anyStretch }),
  fc.record({ kind: fc.constant('course' as const), courseId: anyMark, is: fc.constantFrom('inside' as const, 'finished' as const, 'left' as const, 'never' as const), stepId: fc.option(fc.constantFrom(...STEPS)) }),
  fc.record({ kind: fc.constant('sample' as const), hundredths: fc.nat(10_000), salt: fc.nat(9999) }),
)
const anyCondition = fc.letrec<{ tree: Condition, group: Condition }>(tie => ({
  tree: fc.oneof({ depthSize: 'small', withCrossShrink: true }, anyLeaf, tie('group')),
  group: fc.record({ kind: fc.constantFrom('all' as const, 'any' as const, 'none' as const), of: fc.array(tie('tree'), { maxLength: 4 }) }),
})).tree

const inMemory = (condition: Condition) => people.filter(person => holds(condition, person, NOW)).map(person => person.id)
const inSql = (condition: Condition) => peopleWhere(db, toSql(condition, NOW))

describe('a condition', () => {
  it('means the same for one person in memory as for all in SQL, whatever the tree', { timeout: 120_000 }, () => {
    let some = 0
    fc.assert(fc.property(anyCondition, (condition) => {
      const ids = inMemory(condition)
      if (ids.length > 0 && ids.length < PEOPLE) some++
      expect(inSql(condition)).toEqual(ids)
    }), { numRuns: 2500 })
    // Trees that hold for nobody or for everybody would prove little.
    expect(some).toBeGreaterThan(800)
  })

  it('every kind of leaf and fate holds for some and not for others, so that agreeing says something', () => {
    const leaves: Leaf[] = [
      { kind: 'status', is: ['active'] }, { kind: 'list', listId: 1, is: 'joined' }, { kind: 'list', listId: 1, is: 'left' }, { kind: 'list', listId: 2, is: 'never-joined' }, { kind: 'tag', tagId: 1, since: null },
      { kind: 'tag', tagId: 1, since: { kind: 'last-days', days: 3 } }, { kind: 'source', is: 'import' }, { kind: 'arrived', when: { kind: 'last-days', days: 4 } }, { kind: 'read', within: { kind: 'last-days', days: 1 } }, { kind: 'opted-in', pageId: 1, within: null },
      ...EMAIL_FATES.map(fate => ({ kind: 'email' as const, fate, which: null, within: null, times: 1 })), { kind: 'email', fate: 'opened', which: { courseId: 1, stepId: null }, within: null, times: 2 },
      ...(['inside', 'finished', 'left', 'never'] as const).map(is => ({ kind: 'course' as const, courseId: 1, is, stepId: null })), { kind: 'course', courseId: 2, is: 'inside', stepId: 'three' }, { kind: 'sample', hundredths: 5000, salt: 1 },
    ]
    for (const leaf of leaves) {
      const { length } = inMemory(leaf)
      expect([length > 0, length < PEOPLE], JSON.stringify(leaf)).toEqual([true, true])
      expect(inSql(leaf)).toEqual(inMemory(leaf))
    }
  })

  it('none of is the opposite of any of, and a group of nothing has its written meaning', () => {
    fc.assert(fc.property(fc.array(anyLeaf, { maxLength: 4 }), (of) => {
      const any = new Set(inSql({ kind: 'any', of }))
      expect(inSql({ kind: 'none', of })).toEqual(people.map(person => person.id).filter(id => !any.has(id)))
    }), { numRuns: 200 })
    expect(inSql(EVERYBODY)).toHaveLength(PEOPLE)
    expect(inSql({ kind: 'any', of: [] })).toEqual([])
    expect(inSql({ kind: 'none', of: [] })).toHaveLength(PEOPLE)
  })

  it('a sample is the same share of people each time, and another one after another salt', () => {
    const many = Array.from({ length: 20_000 }, (_, n): PersonFacts => ({ ...people[0]!, id: n + 1 }))
    const sample = (hundredths: number, salt: number) => many.filter(person => holds({ kind: 'sample', hundredths, salt }, person, NOW)).map(person => person.id)
    for (const hundredths of [0, 100, 2500, 5000, 10_000]) expect(sample(hundredths, 3)).toHaveLength(20_000 * hundredths / 10_000)
    expect(sample(1000, 3)).toEqual(sample(1000, 3))
    expect(sample(1000, 3)).not.toEqual(sample(1000, 4))
  })
})

// Common practice, no source: an included and an excluded tag gets nothing; all minus some; joined within 7 days is a newcomer.
describe('an audience as the trade means it', () => {
  const facts = (part: Partial<PersonFacts>): PersonFacts => ({ id: 1, status: 'active', source: 'import', createdAt: 0, lists: [], tags: [], optIns: [], emails: [], enrolments: [], ...part })
  const has = (tagId: number): Leaf => ({ kind: 'tag', tagId, since: null })

  it('never wins: who has both tags gets nothing', () => {
    const audience: Condition = { kind: 'all', of: [has(1), { kind: 'none', of: [has(2)] }] }
    const tags = (...ids: number[]) => facts({ tags: ids.map(tagId => ({ tagId, sinceAt: 0 })) })
    expect([tags(1), tags(1, 2), tags(2), tags()].map(person => holds(audience, person, NOW))).toEqual([true, false, false, false])
  })

  it('a newcomer of the last 7 days is one of 7 times 24 hours, the edge included', () => {
    const newcomer: Condition = { kind: 'arrived', when: { kind: 'last-days', days: 7 } }
    const arrived = (ago: number) => holds(newcomer, facts({ createdAt: NOW - ago }), NOW)
    expect([arrived(0), arrived(7 * DAY), arrived(7 * DAY + 1), arrived(-1)]).toEqual([true, true, false, false])
  })

  it('silent is who was here before and neither opened nor clicked since', () => {
    const days = 150
    const silent: Condition = { kind: 'all', of: [{ kind: 'status', is: ['active'] }, { kind: 'arrived', when: { kind: 'before', at: NOW - days * DAY } }, { kind: 'none', of: [{ kind: 'read', within: { kind: 'last-days', days } }] }] }
    const email = (opens: number[], clicks: number[] = []) => facts({ emails: [{ courseId: 1, stepId: 'one', plannedAt: 0, status: 'handed over', triedAgain: false, handedOverAt: 0, leftAt: null, opens, clicks }] })
    expect([facts({}), email([NOW - 151 * DAY]), email([NOW - 149 * DAY]), email([], [NOW - DAY]), facts({ createdAt: NOW - DAY }), facts({ status: 'resting' })].map(person => holds(silent, person, NOW)))
      .toEqual([true, true, false, false, false, false])
  })
})
