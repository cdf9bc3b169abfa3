import fc from 'fast-check'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Condition, FieldTest, Leaf, Moment, Stretch, WhichEmail } from '#core/audience/condition'
import { EMAIL_FATES, EVERYBODY, OPT_IN_FATES, PURCHASE_FATES } from '#core/audience/condition'
import type { PersonFacts } from '#core/audience/meaning'
import { READY_SEGMENTS } from '#core/audience/segment'
import { holds } from '#core/audience/meaning'
import { toCount, toSql } from '#core/audience/sql'
import { mayChangeByTime, reevaluateAt } from '#core/audience/reevaluate'
import { diceOf } from '#core/dice'
import type { SourceKey } from '#core/page/touch'
import type { Status } from '#core/people/status'
import { lazyFacts, peopleWhere } from '#data/audience'
import { type Database, openDatabase } from '#data/connection'
import { migrate } from '#data/migrate'
import { countWhere } from '#data/people'
import { localOf } from '#core/time/zone'
import { temporaryFolder } from '../temporary'
import { DAY, HOUR } from './workshop'

const NOW = Date.UTC(2026, 10, 26, 12)
const STATUSES: Status[] = ['pending', 'active', 'resting', 'unsubscribed', 'bounced', 'complained']
const SOURCES = ['page:sheet-kit', 'page:fold-sew-cover', 'import']
const STEPS = ['one', 'two', 'three']
const COUNTRIES = ['PT', 'US', 'BR']
const ZONES = ['Europe/Lisbon', 'Asia/Kathmandu']
const URLS = ['https://example.com/a', 'https://example.com/b']
const DATES = ['1969-07-20', '2026-11-23', '2026-11-25', '2026-11-26', '2026-11-27', '2026-12-03', '2027-02-28']
const WORDS = ['Élodie', 'élodie', 'ΣΊΣΥΦΟΣ', 'bone folder', 'Bone', '']
const PEOPLE = 120

/** Times near the edges of the last few whole days, to the millisecond; never in the future. */
const timesNear = (dice: () => number) =>
  Math.min(NOW, NOW - Math.floor(dice() * 9) * DAY + [-1, 0, 1, 0, 3 * HOUR][Math.floor(dice() * 5)]!)

/** Segments 1 to 3; the third uses the second. A fourth is not there. */
const SEGMENTS = new Map<number, Condition>([
  [1, { kind: 'any', of: [{ kind: 'tag', tagId: 1, since: { kind: 'last-days', days: 4 } }, { kind: 'status', is: ['bounced'] }] }],
  [2, { kind: 'none', of: [{ kind: 'arrived', when: { kind: 'last-days', days: 3 } }] }],
  [3, { kind: 'all', of: [{ kind: 'segment', segmentId: 2 }, { kind: 'list', listId: 1, is: 'joined' }] }],
])
const MOMENT: Moment = {
  now: NOW, zone: 'Europe/Lisbon', today: '2026-11-26', score: { halfLifeDays: 3, points: { 'opted-in': 4, 'clicked': 2 } },
  consent: { countries: ['PT', 'BR'], unknownNeeds: true }, segments: SEGMENTS,
}
const later = (now: number): Moment => ({ ...MOMENT, now, today: localOf(now, MOMENT.zone).date })

let db: Database
let people: PersonFacts[]

/** People of every sort, put in row by row: here it is not how they came about that is tried, but what is asked of them. */
beforeAll(() => {
  db = openDatabase(join(temporaryFolder(), 'audience.db'))
  migrate(db, 0)
  const dice = diceOf(4711)
  // Purchases have dice of their own: what was thrown before they came stays as it fell.
  const till = diceOf(815)
  const points = diceOf(2718)
  const acts = diceOf(1618)
  const queue = diceOf(577)
  const of = <Item>(items: readonly Item[]) => items[Math.floor(till() * items.length)]!
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  const put = (table: string, row: Record<string, unknown>) => Number(db.prepare(
    `INSERT INTO ${table} (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row).map(() => '?').join(', ')})`,
  ).run(...Object.values(row)).lastInsertRowid)
  db.transaction(() => {
    const event = put('events', { kind: 'opted-in', at: 0 })
    for (const [n, url] of URLS.entries()) put('links', { id: n + 1, name: url, url, made_at: 0, changed_at: 0 })
    for (const id of [1, 2]) {
      put('lists', { id, name: `list ${id}`, public_name: `List ${id}`, created_at: 0 })
      put('tags', { id, name: `tag ${id}`, created_at: 0 })
      put('courses', { id, name: `course ${id}`, status: 'running', again: 'after-ending', draft: '{}', created_at: 0, changed_at: 0 })
      put('rules', { id, when_kind: 'replied', rule: '{}', is_on: 1, made_at: 0, changed_at: 0 })
      put('touches', { id, named: '', source: `letter ${id}`, medium: '', campaign: '', term: '', content: '', referrer: '' })
      put('offers', { id, name: `offer ${id}`, slug: `offer-${id}`, draft: '{}', created_at: 0, changed_at: 0 })
      put('pages', { id, name: `page ${id}`, slug: `page-${id}`, draft: '{}', created_at: 0, changed_at: 0 })
      put('course_versions', { id, course_id: id, number: 1, program: '{}', source: '{}', published_at: 0 })
      for (const step of STEPS) {
        const message = put('messages', {
          kind: 'course', owner_id: id, item_id: step, digest: 'd', working_title: step, content: '{}', subject: '', html: '', text: '',
          created_at: 0,
        })
        put('sends', { id: message, kind: 'course', owner_id: id, item_id: step })
        for (const [n, url] of URLS.entries()) put('message_links', { message_id: message, n, url, label: url, link_id: n + 1 })
      }
      put('offer_versions', { id, offer_id: id, number: 1, content: '{}', receipt_message_id: 1, published_at: 0 })
    }
    for (const [n, touch] of [
      { named: 'flyer', source: 'letter 1', referrer: 'example.org' }, { named: '', source: '', referrer: 'example.org' },
      { named: '', source: '', referrer: '' },
    ].entries()) put('touches', { id: 3 + n, ...touch, medium: '', campaign: '', term: '', content: '' })
    for (const [index, kind] of ['text', 'number', 'yes-no', 'date'].entries()) {
      put('fields', { id: index + 1, name: kind, label: kind, kind, created_at: 0 })
    }
    for (let n = 0; n < PEOPLE; n++) {
      const id = put('people', {
        id: 1 + n * 3, address: `p${n}@example.com`, address_key: `p${n}@example.com`, status: pick(STATUSES), source: pick(SOURCES),
        created_at: timesNear(dice), country: pick([...COUNTRIES, null]), zone: pick([...ZONES, null]), consent_at: pick([NOW - DAY, null]),
        fetched_at: dice() < 0.5 ? timesNear(dice) : null, first_touch_id: pick([1, 2, 3, 4, 5, null]),
        latest_touch_id: pick([1, 2, 3, 4, 5, null]),
      })
      for (const [index, values] of [WORDS, [-1.5, 0, 2, 10], [0, 1], DATES].entries()) {
        if (dice() < 0.7) put('field_values', { field_id: index + 1, person_id: id, value: pick<string | number>(values) })
      }
      let readAt = null as number | null
      for (const mark of [1, 2]) {
        if (dice() < 0.5) {
          put('list_members', { list_id: mark, person_id: id, joined_at: 0, left_at: dice() < 0.4 ? NOW : null, event_id: event })
        }
        if (dice() < 0.4) put('opt_ins', {
          at: timesNear(dice), person_id: id, page_id: mark, event_id: event, touch_id: dice() < 0.3 ? null : 1 + Math.floor(dice() * 2),
          result_id: dice() < 0.4 ? null : `r${1 + Math.floor(dice() * 2)}`, confirmed_at: dice() < 0.4 ? null : timesNear(dice),
          fetched_at: dice() < 0.5 ? null : timesNear(dice),
        })
        if (dice() < 0.5) put('tag_holdings', { tag_id: mark, person_id: id, since_at: timesNear(dice), event_id: event })
        for (let visit = 1; visit <= Math.floor(dice() * 3); visit++) {
          const status = visit === 1 ? pick(['open', 'finished', 'left'] as const) : pick(['finished', 'left'] as const)
          const enrolment = put('enrolments', {
            course_id: mark, person_id: id, visit, version_id: mark, status, joined_at: 0, previous_at: 0,
            step_id: status === 'open' ? pick(STEPS) : null, due_at: null, done_steps: '[]', own_act: 1, event_id: event,
          })
          for (const [index, step] of STEPS.entries()) {
            if (dice() < 0.4) continue
            const state = pick(['handed over', 'handed over', 'handed over', 'held back', 'failed', 'queued', 'withdrawn'])
            const gone = state === 'handed over'
            const email = put('outbox', {
              kind: 'course', owner_id: mark, person_id: id, item_id: step, occasion: `${visit}`, message_id: 1 + (mark - 1) * 3 + index,
              send_id: 1 + (mark - 1) * 3 + index, enrolment_id: enrolment, list_id: mark, asked_for: 0, cause_id: event,
              planned_at: timesNear(dice), status: state, go_at: state === 'queued' || (state === 'failed' && dice() < 0.5) ? NOW : null,
              handed_over_at: gone ? timesNear(dice) : null, left_at: gone && dice() < 0.1 ? timesNear(dice) : null,
              repeats: dice() < 0.1 ? 1 : 0,
            })
            for (const [table, judgements] of [
              ['opens', ['reader', 'prefetch', 'scanner']], ['clicks', ['reader', 'scanner', null]],
            ] as const) {
              for (let times = Math.floor(dice() * 3); gone && times > 0; times--) {
                const [at, judged] = [timesNear(dice), pick(judgements)]
                put(table, {
                  outbox_id: email, at, judged, event_id: event,
                  ...(table === 'clicks' && { link_n: pick([0, 1]), suspect: 0, settle_at: 0 }),
                })
                if (judged !== 'reader') continue
                readAt = Math.max(readAt ?? at, at)
                const [first, last] = table === 'opens' ? ['opened_at', 'last_opened_at'] : ['clicked_at', 'last_clicked_at']
                db.prepare(`
                  UPDATE outbox SET ${first} = min(coalesce(${first}, @at), @at), ${last} = max(coalesce(${last}, @at), @at)
                  WHERE id = @email`).run({ at, email })
              }
            }
          }
        }
      }
      for (const offer of [1, 2]) {
        if (offer === 1 && points() < 0.6) {
          put('scores', { person_id: id, value: [1, 2, 4, 6, 12][Math.floor(points() * 5)]!, at: timesNear(points) })
        }
        for (let times = Math.floor(acts() * 3); times > 0; times--) put('rule_firings', {
          rule_id: offer, person_id: id, event_id: event, root_id: event, at: timesNear(acts), did: '[]',
        })
        if (till() < 0.2) put('said_no_more', { offer_id: offer, person_id: id, at: 0, event_id: event })
        if (queue() < 0.5) {
          put('waits', {
            offer_id: offer, person_id: id, event_id: event, answers: '{}', asked_at: 0, confirmed_at: queue() < 0.7 ? 1 : null,
            told_at: queue() < 0.3 ? 2 : null, ended_at: queue() < 0.2 ? 2 : null,
          })
        }
        for (let times = Math.floor(till() * 3); times > 0; times--) {
          const paid = of([900, 1000])
          const [key, refunded] = [`${id}-${offer}-${times}`, till() < 0.3 ? of([100, paid]) : 0]
          const checkout = put('checkouts', {
            order_key: key, offer_id: offer, offer_version_id: 1, person_id: id, first_price: '{}', touch_id: 1, answers: '{}',
            started_at: timesNear(till), keeps_until_at: 0, abandoned_due_at: null, state: of(['bought', 'abandoned', 'replaced']),
            event_id: event,
          })
          if (till() < 0.5) put('purchases', {
            order_key: key, offer_id: offer, checkout_id: checkout, person_id: id, came_by: 'checkout', price: '{}',
            currency: of(['EUR', 'EUR', 'JPY']), bought_at: timesNear(till), told_at: 0, paid, refunded, disputed: till() < 0.2 ? 1 : 0,
            refused_at: till() < 0.2 ? 1 : null, over_at: refunded === paid || till() < 0.2 ? timesNear(till) : null, event_id: event,
          })
        }
      }
      db.prepare('UPDATE people SET read_at = ? WHERE id = ?').run(readAt, id)
    }
  })()
  people = Array.from({ length: PEOPLE }, (_, n) => lazyFacts(db, 1 + n * 3)!)
})
afterAll(() => db.close())

/* Trees of every shape */

const anyStretch: fc.Arbitrary<Stretch> = fc.oneof(
  fc.record({ kind: fc.constant('last-days' as const), days: fc.nat(9) }),
  fc.record({
    kind: fc.constantFrom('before' as const, 'since' as const),
    at: fc.nat(8).chain(days => fc.constantFrom(-1, 0, 1).map(shift => NOW - days * DAY + shift)),
  }),
)
const anyMark = fc.integer({ min: 1, max: 3 }) // 3 is not there
const anyWhich: fc.Arbitrary<WhichEmail> = fc.option(fc.record({
  kind: fc.constantFrom('course' as const, 'file' as const), ownerId: anyMark, itemId: fc.option(fc.constantFrom(...STEPS, 'gone')),
}))
const anyDays = fc.nat(9)
const anyTest: fc.Arbitrary<FieldTest> = fc.oneof(
  fc.constant({ is: 'known' as const }),
  fc.record({
    is: fc.constantFrom('equal' as const, 'contains' as const, 'begins' as const),
    text: fc.constantFrom(...WORDS, 'É', 'one', 'σίσυφος', '%', '2026'),
  }),
  fc.record({
    is: fc.constant('number' as const), sign: fc.constantFrom('<' as const, '<=' as const, '=' as const, '>=' as const, '>' as const),
    number: fc.constantFrom(-1.5, 0, 1, 2, 9.75),
  }),
  fc.record({ is: fc.constant('yes' as const), yes: fc.boolean() }),
  fc.record({ is: fc.constant('one-of' as const), values: fc.subarray([...WORDS, ...DATES]) }),
  fc.record({ is: fc.constantFrom('on' as const, 'before' as const, 'after' as const), date: fc.constantFrom(...DATES) }),
  fc.record({ is: fc.constantFrom('last-days' as const, 'next-days' as const), days: anyDays }),
  fc.record({ is: fc.constant('day' as const), days: fc.integer({ min: -7, max: 7 }), yearly: fc.boolean() }),
)
const anySource: fc.Arbitrary<SourceKey> = fc.constantFrom({
  kind: 'named', word: 'flyer',
}, { kind: 'utm', word: 'letter 1' }, { kind: 'utm', word: 'flyer' }, { kind: 'site', word: 'example.org' }, { kind: 'untold', word: '' })
const anyLeaf: fc.Arbitrary<Leaf> = fc.oneof(
  fc.record({ kind: fc.constant('status' as const), is: fc.subarray(STATUSES) }),
  fc.constant({ kind: 'may-be-mailed' as const }),
  fc.record({
    kind: fc.constant('list' as const), listId: fc.option(anyMark, { nil: null }),
    is: fc.constantFrom('joined' as const, 'left' as const, 'never-joined' as const),
  }),
  fc.record({ kind: fc.constant('tag' as const), tagId: anyMark, since: fc.option(anyStretch) }),
  fc.record({ kind: fc.constant('field' as const), fieldId: fc.integer({ min: 1, max: 5 }), test: anyTest }),
  fc.record({ kind: fc.constant('country' as const), is: fc.subarray(COUNTRIES), unknown: fc.boolean() }),
  fc.record({ kind: fc.constant('zone' as const), is: fc.subarray(ZONES) }),
  fc.record({ kind: fc.constant('consent' as const), is: fc.constantFrom('on-record' as const, 'missing' as const) }),
  fc.record({ kind: fc.constant('source' as const), is: fc.constantFrom(...SOURCES, '\' OR 1=1 --') }),
  fc.record({ kind: fc.constant('arrived' as const), when: anyStretch }),
  fc.record({
    kind: fc.constant('opted-in' as const), pageId: anyMark, within: fc.option(anyStretch), touchId: fc.option(anyMark, { freq: 1 }),
    did: fc.constantFrom(...OPT_IN_FATES), resultId: fc.option(fc.constantFrom('r1', 'r2', 'none'), { freq: 1 }),
  }),
  fc.record({ kind: fc.constant('brought' as const), by: fc.constantFrom('first' as const, 'latest' as const), source: anySource }),
  fc.record({
    kind: fc.constant('email' as const), fate: fc.constantFrom(...EMAIL_FATES), which: anyWhich, within: fc.option(anyStretch),
    times: fc.nat(4), url: fc.option(fc.constantFrom(...URLS, 'https://example.com/c')),
  }),
  fc.record({ kind: fc.constant('last-read' as const), by: fc.constantFrom('reader' as const, 'uncertain' as const), within: anyStretch }),
  fc.record({
    kind: fc.constant('course' as const), courseId: anyMark,
    is: fc.constantFrom('inside' as const, 'finished' as const, 'left' as const, 'ever' as const, 'never' as const),
    stepId: fc.option(fc.constantFrom(...STEPS)),
  }),
  fc.record({
    kind: fc.constant('purchase' as const), fate: fc.constantFrom(...PURCHASE_FATES), offerId: fc.option(anyMark),
    within: fc.option(anyStretch), times: fc.integer({ min: 1, max: 3 }),
  }),
  fc.record({
    kind: fc.constant('spent' as const), currency: fc.constantFrom('EUR', 'JPY'), atLeast: fc.constantFrom(0, 1, 900, 1000, 1800),
    offerId: fc.option(anyMark),
  }),
  fc.record({ kind: fc.constant('no-more' as const), offerId: anyMark }),
  fc.record({ kind: fc.constant('waits' as const), offerId: anyMark }),
  fc.record({
    kind: fc.constant('followed' as const), linkId: fc.integer({ min: 1, max: 3 }), within: fc.option(anyStretch),
    times: fc.integer({ min: 1, max: 3 }),
  }),
  fc.record({ kind: fc.constant('rule-acted' as const), ruleId: anyMark, within: fc.option(anyStretch) }),
  fc.record({ kind: fc.constant('score' as const), atLeast: fc.integer({ min: 1, max: 12 }) }),
  fc.record({ kind: fc.constant('segment' as const), segmentId: fc.integer({ min: 1, max: 4 }) }),
  fc.record({ kind: fc.constant('sample' as const), hundredths: fc.nat(10_000), salt: fc.nat(9999) }),
)
const anyCondition = fc.letrec<{ tree: Condition, group: Condition }>(tie => ({
  tree: fc.oneof({ depthSize: 'small', withCrossShrink: true }, anyLeaf, tie('group')),
  group: fc.record({ kind: fc.constantFrom('all' as const, 'any' as const, 'none' as const), of: fc.array(tie('tree'), { maxLength: 4 }) }),
})).tree

const inMemory = (condition: Condition) => people.filter(person => holds(condition, person, MOMENT)).map(person => person.id)
/** Asked as sets and asked anew for each person: the same people. */
function inSql(condition: Condition): number[] {
  const found = peopleWhere(db, toSql(condition, MOMENT))
  expect(peopleWhere(db, toSql(condition, MOMENT, 'each'))).toEqual(found)
  expect(countWhere(db, { search: '', where: toCount(condition, MOMENT) })).toBe(found.length)
  return found
}

describe('a condition', () => {
  it('means the same for one person in memory as for all in SQL, whatever the tree', () => {
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
      { kind: 'status', is: ['active'] }, { kind: 'list', listId: 1, is: 'joined' }, { kind: 'list', listId: 1, is: 'left' },
      { kind: 'list', listId: 2, is: 'never-joined' }, { kind: 'tag', tagId: 1, since: null },
      { kind: 'tag', tagId: 1, since: { kind: 'last-days', days: 3 } }, { kind: 'source', is: 'import' }, {
        kind: 'arrived', when: { kind: 'last-days', days: 4 },
      }, { kind: 'last-read', by: 'reader', within: { kind: 'last-days', days: 1 } }, {
        kind: 'last-read', by: 'uncertain', within: { kind: 'before', at: NOW - 3 * DAY },
      }, { kind: 'opted-in', pageId: 1, within: null }, {
        kind: 'opted-in', pageId: 1, within: null, touchId: 2,
      }, ...OPT_IN_FATES.map(did => ({ kind: 'opted-in' as const, pageId: 1, within: { kind: 'last-days' as const, days: 4 }, did })),
      ...EMAIL_FATES.map(fate => ({ kind: 'email' as const, fate, which: null, within: null, times: 1, url: null })), {
        kind: 'email', fate: 'opened', which: { kind: 'course', ownerId: 1, itemId: null }, within: null, times: 2, url: null,
      }, { kind: 'email', fate: 'clicked', which: null, within: null, times: 1, url: URLS[1]! }, {
        kind: 'email', fate: 'clicked', which: { kind: 'course', ownerId: 2, itemId: 'two' }, within: { kind: 'last-days', days: 5 },
        times: 1, url: null,
      },
      { kind: 'may-be-mailed' }, { kind: 'country', is: ['PT'], unknown: false }, { kind: 'country', is: [], unknown: true }, {
        kind: 'zone', is: ['Asia/Kathmandu'],
      }, { kind: 'consent', is: 'on-record' }, { kind: 'consent', is: 'missing' }, { kind: 'segment', segmentId: 3 },
      ...([
        { is: 'known' }, { is: 'equal', text: 'ÉLODIE' }, { is: 'contains', text: 'ONE' }, { is: 'begins', text: 'σίσυ' },
        { is: 'one-of', values: ['Bone'] },
      ] as FieldTest[]).map(test => ({ kind: 'field' as const, fieldId: 1, test })),
      ...(['<', '<=', '=', '>=', '>'] as const).map(sign => ({
        kind: 'field' as const, fieldId: 2, test: { is: 'number' as const, sign, number: 2 },
      })), { kind: 'field', fieldId: 3, test: { is: 'yes', yes: true } },
      ...([
        { is: 'on', date: '2026-11-26' }, { is: 'before', date: '2026-11-26' }, { is: 'after', date: '2026-11-26' },
        { is: 'last-days', days: 1 }, { is: 'next-days', days: 7 }, { is: 'day', days: 1, yearly: false },
        { is: 'day', days: 3, yearly: true },
      ] as FieldTest[]).map(test => ({ kind: 'field' as const, fieldId: 4, test })),
      ...(['inside', 'finished', 'left', 'ever', 'never'] as const).map(is => ({
        kind: 'course' as const, courseId: 1, is, stepId: null,
      })), { kind: 'course', courseId: 2, is: 'inside', stepId: 'three' }, ...PURCHASE_FATES.flatMap(fate => [null, 2].map(offerId => ({
        kind: 'purchase' as const, fate, offerId, within: null, times: 1,
      }))), { kind: 'purchase', fate: 'bought', offerId: null, within: { kind: 'last-days', days: 4 }, times: 2 }, {
        kind: 'spent', currency: 'EUR', atLeast: 1000, offerId: null,
      }, { kind: 'no-more', offerId: 1 }, { kind: 'waits', offerId: 1 }, { kind: 'score', atLeast: 3 }, {
        kind: 'followed', linkId: 1, within: null, times: 2,
      }, { kind: 'followed', linkId: 2, within: { kind: 'last-days', days: 4 }, times: 1 }, {
        kind: 'rule-acted', ruleId: 1, within: null,
      }, { kind: 'rule-acted', ruleId: 2, within: { kind: 'last-days', days: 4 } }, { kind: 'sample', hundredths: 5000, salt: 1 },
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
    const sample = (hundredths: number, salt: number) =>
      many.filter(person => holds({ kind: 'sample', hundredths, salt }, person, MOMENT)).map(person => person.id)
    for (const hundredths of [0, 100, 2500, 5000, 10_000]) expect(sample(hundredths, 3)).toHaveLength(20_000 * hundredths / 10_000)
    expect(sample(1000, 3)).toEqual(sample(1000, 3))
    expect(sample(1000, 3)).not.toEqual(sample(1000, 4))
  })
})

// Common practice, no source: an included and an excluded tag gets nothing; all minus some; joined within 7 days is a newcomer.
describe('an audience as the trade means it', () => {
  const facts = (part: Partial<PersonFacts>): PersonFacts => ({
    id: 1, status: 'active', source: 'import', createdAt: 0, zone: null, country: null, consentAt: null, readAt: null, fetchedAt: null,
    lists: [], tags: [], fields: [], brought: { first: null, latest: null }, optIns: [], emails: [], purchases: [], checkouts: [],
    noMore: [], waits: [], acted: [], score: { known: null }, enrolments: [], ...part,
  })
  const has = (tagId: number): Leaf => ({ kind: 'tag', tagId, since: null })

  it('never wins: who has both tags gets nothing', () => {
    const audience: Condition = { kind: 'all', of: [has(1), { kind: 'none', of: [has(2)] }] }
    const tags = (...ids: number[]) => facts({ tags: ids.map(tagId => ({ tagId, sinceAt: 0 })) })
    expect([tags(1), tags(1, 2), tags(2), tags()].map(person => holds(audience, person, MOMENT))).toEqual([true, false, false, false])
  })

  it('a newcomer of the last 7 days is one of 7 times 24 hours, the edge included', () => {
    const newcomer: Condition = { kind: 'arrived', when: { kind: 'last-days', days: 7 } }
    const arrived = (ago: number) => holds(newcomer, facts({ createdAt: NOW - ago }), MOMENT)
    expect([arrived(0), arrived(7 * DAY), arrived(7 * DAY + 1)]).toEqual([true, true, false])
  })

  it('silent is who was here before and neither opened nor clicked since; who only fetched stands apart', () => {
    const [
      silent, uncertain,
    ] = (['silent', 'uncertain-only'] as const).map(code => READY_SEGMENTS.find(segment => segment.code === code)!.condition)
    const of = (...people: PersonFacts[]) => people.map(person => [holds(silent!, person, MOMENT), holds(uncertain!, person, MOMENT)])
    const ago = (days: number) => NOW - days * DAY
    expect(of(
      facts({}), facts({ readAt: ago(151) }), facts({ readAt: ago(150) }), facts({ readAt: ago(1) }), facts({ createdAt: ago(1) }),
      facts({ status: 'resting' }), facts({ fetchedAt: ago(2) }), facts({ fetchedAt: ago(200) }),
    ))
      .toEqual([[true, false], [true, false], [false, false], [false, false], [false, false], [false, false], [false, true], [true, false]])
  })

  it('all minus those without the consent their country needs: an unknown country goes by its own setting', () => {
    const mailed = (person: Partial<PersonFacts>, unknownNeeds: boolean) =>
      holds({ kind: 'may-be-mailed' }, facts(person), { ...MOMENT, consent: { countries: ['PT'], unknownNeeds } })
    expect([
      mailed({ country: 'PT' }, false), mailed({ country: 'PT', consentAt: 1 }, false), mailed({ country: 'US' }, true), mailed({}, true),
      mailed({}, false), mailed({ consentAt: 1 }, true), mailed({ status: 'pending', consentAt: 1 }, false),
    ])
      .toEqual([false, true, true, false, true, true, false])
  })
})

describe('time alone', () => {
  it('turns a condition for nobody before the instant it is said to, whatever the tree', () => {
    let turned = 0
    fc.assert(fc.property(anyCondition, fc.nat(PEOPLE - 1), fc.double({ min: 0, max: 1, noNaN: true }), (condition, n, part) => {
      const person = people[n]!
      const now = holds(condition, person, MOMENT)
      const at = reevaluateAt(condition, person, MOMENT)
      const end = at ?? NOW + 400 * DAY
      for (const moment of [NOW + Math.floor((end - 1 - NOW) * part), end - 1]) expect(holds(condition, person, later(moment))).toBe(now)
      if (at !== null && holds(condition, person, later(at)) !== now) turned++
    }), { numRuns: 6000 })
    expect(turned).toBeGreaterThan(100)
  })

  it('turns it only for people among those that are looked at one by one', () => {
    fc.assert(fc.property(anyCondition, (condition) => {
      const turning = people.filter(person => reevaluateAt(condition, person, MOMENT) !== null).map(person => person.id)
      const looked = mayChangeByTime(condition, SEGMENTS)
      if (turning.length > 0) expect(looked).not.toBeNull()
      if (looked) expect(inSql(looked)).toEqual(expect.arrayContaining(turning))
    }), { numRuns: 500 })
  })
})
