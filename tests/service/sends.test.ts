/**
 * One road for everything that is sent: a kind that is in the registry alone is sent, limited, held back, forecast and explained like any
 * other.
 */
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { join } from 'node:path'
import type { Condition } from '#core/audience/condition'
import { HELD_BACK_REASONS } from '#core/sending/reasons'
import { SEND_KINDS, type EmailKind, type SendKind } from '#core/sending/kinds'
import { openDatabase, type Database } from '#data/connection'
import { migrate, MIGRATIONS } from '#data/migrate'
import { emailsOfPerson, emailsWaiting, leaseEmails, sentBetween } from '#data/outbox'
import { allRules } from '#data/rules'
import { findSendById } from '#data/sends'
import { openTask } from '#data/tasks'
import { leave } from '#usecases/arrive/leave'
import { keepWording, makeWordings } from '#usecases/inner/wordings'
import { giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { taskView, stopTask } from '#usecases/know/doToMany'
import { saveTag } from '#usecases/know/listsAndTags'
import { pauseSend, audienceReach, resumeSend, scheduleSend, stopSend, type NewSend } from '#usecases/sending/audience'
import { saveSendingLimits } from '#usecases/settings/limits'
import { play } from '#usecases/time/play'
import { workOnTask } from '#usecases/time/tasks'
import { railView } from '#usecases/views/frame'
import { whyView } from '#usecases/views/why'
import { temporaryFolder } from '../temporary'
import {
  DAY, email, furnish, HOUR, listeningCarrier, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop,
} from './workshop'

/** Not one of ours: nothing but this entry knows of it. */
const NEWS = 'news' as EmailKind
const news: SendKind = {
  word: 'news', owner: null, sign: { colour: null, shape: 'ring' }, to: 'subscriber', because: 'list', rank: 'rule', keepsHours: true,
  waitsForResting: false, checks: HELD_BACK_REASONS, isWatched: true, isExpected: false, isForecast: true,
}
beforeEach(() => {
  Object.assign(SEND_KINDS, { [NEWS]: news })
})
afterEach(() => {
  Reflect.deleteProperty(SEND_KINDS, NEWS)
})

const of = { kind: NEWS, ownerId: 7, itemId: 'spring' }
const everybody: Condition = { kind: 'all', of: [] }
const has = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })

async function newsFor(
  context: Workshop, listId: number, more: Partial<NewSend['audience']> = {}, dueAt = thursdayNoon + HOUR,
): Promise<NewSend> {
  const wording = { of, content: email('The spring news') }
  const made = await makeWordings(context, [wording])
  const messageId = keepWording(context, wording, made, thursdayNoon)
  return { ...of, messageId, listId, dueAt, audience: { getsIt: everybody, never: null, newcomerDays: null, ...more } }
}

const fates = (context: Workshop, id: number) =>
  emailsOfPerson(context.db, id).filter(({ kind }) => kind === NEWS).map(({ status, reason }) => reason ?? status)
const rows = (context: Workshop, what: string) =>
  context.db.prepare(`SELECT ${what} AS n FROM outbox WHERE kind = 'news'`).pluck().get() as number

/** A course that sends nothing by itself for a long time. */
const quiet = () => [step('one', { kind: 'elapsed', count: 80, unit: 'days', from: 'joining' })]

describe('a kind that only the registry knows', () => {
  it('is forecast, sent, held back with each reason, and explained', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const leavesOut = saveTag(context, null, tag('never'))
    const [
      fine, never, left, resting,
    ] = ['fine', 'never', 'left', 'resting'].map(name => visit(context, `${name}@example.com`)) as [number, number, number, number]
    await moveTo(context, thursdayNoon + 3 * DAY)
    const late = visit(context, 'newcomer@example.com')
    giveTagByHand(context, never, leavesOut)
    context.db.prepare(`UPDATE people SET status = 'resting' WHERE id = ?`).run(resting)
    context.db.prepare('UPDATE list_members SET left_at = 1 WHERE person_id = ?').run(left)
    const send = await newsFor(context, listId, { never: has(leavesOut), newcomerDays: 2 }, thursdayNoon + 3 * DAY + HOUR)
    const reach = audienceReach(context, { ...send, sells: [] })
    expect(reach).toEqual({ people: 5, heldBack: ['left-list', 'resting', 'in-never', 'newcomer'].map(reason => ({ reason, people: 1 })) })
    const id = scheduleSend(context, send)
    expect(railView(context).posts!.filter(({ kind }) => kind === NEWS)).toMatchObject([
      { people: 1, title: 'The spring news', of: 'news', at: send.dueAt },
    ])
    expect(whyView(context, fine, of)[0]).toBe('Not yet: who gets it is decided when sending begins.')
    expect(() => scheduleSend(context, send)).toThrow(/UNIQUE/)
    await moveTo(context, thursdayNoon + 3 * DAY + 2 * HOUR)
    // What was counted before is what became of it.
    expect([fine, never, left, resting, late].map(one => fates(context, one))).toEqual([
      ['handed over'], ['in-never'], ['left-list'], ['resting'], ['newcomer'],
    ])
    expect([fine, never, late].map(one => whyView(context, one, of)[0])).toEqual([
      'It was sent Sun 29 Nov, 13:00.', 'It was held back: in never.', 'It was held back: newcomer.',
    ])
    expect(findSendById(context.db, id)!.state).toBe('sent')
    // Who came later is none of those.
    expect(whyView(context, visit(context, 'after@example.com'), of)[0]).toBe('They were not in the audience when sending began.')
  })

  it('yields to what is planned for the day, and counts in it', async () => {
    const {
      context, listId,
    } = await furnish(openContext(), () => [step('one', { kind: 'elapsed', count: 2, unit: 'hours', from: 'joining' })])
    saveSendingLimits(context, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    const ada = visit(context, 'ada@example.com')
    scheduleSend(context, await newsFor(context, listId))
    await moveTo(context, thursdayNoon + 30 * HOUR)
    expect(emailsOfPerson(context.db, ada).map(({ kind, handedOverAt }) => [kind, (handedOverAt! - thursdayNoon) / HOUR])).toEqual([
      [NEWS, 25], ['course', 2],
    ])
  })

  it('goes to nobody who leaves, or comes into never, before it leaves; out of never comes nobody', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const leavesOut = saveTag(context, null, tag('never'))
    const [
      leaves, comesIn, comesOut,
    ] = ['leaves', 'in', 'out'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    giveTagByHand(context, comesOut, leavesOut)
    const id = scheduleSend(context, await newsFor(context, listId, { never: has(leavesOut) }))
    await play(context, thursdayNoon + HOUR, { outside: false })
    pauseSend(context, id)
    leave(context, emailsOfPerson(context.db, leaves)[0]!.id, { what: 'everything' })
    giveTagByHand(context, comesIn, leavesOut)
    takeTagByHand(context, comesOut, leavesOut)
    resumeSend(context, id)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    expect([leaves, comesIn, comesOut].map(one => fates(context, one))).toEqual([['unsubscribed'], ['in-never'], ['in-never']])
    expect(findSendById(context.db, id)!.state).toBe('sent')
  })

  it('does not leave once it is paused, also what was about to', async () => {
    let id = 0
    const carrier = listeningCarrier(() => {
      if (id !== 0 && findSendById(context.db, id)!.state !== 'paused') pauseSend(context, id)
      return { kind: 'accepted' }
    })
    const { context, listId } = await furnish(openContext({ carrier }), quiet)
    for (const name of ['a', 'b', 'c', 'd']) visit(context, `${name}@example.com`)
    id = scheduleSend(context, await newsFor(context, listId))
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect([rows(context, 'count(handed_over_at)'), rows(context, `sum(reason = 'send paused')`)]).toEqual([1, 3])
    stopSend(context, id)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    expect([carrier.mails.length, rows(context, `sum(status = 'withdrawn')`)]).toEqual([1, 3])
    expect(taskView(context, findSendById(context.db, id)!.taskId!).state).toBe('done')
  })
})

describe('an audience becomes emails in bits', () => {
  const MANY = 620

  async function crowd(file?: string) {
    const setting = await furnish(openContext({ file }), quiet)
    for (let n = 0; n < MANY; n++) visit(setting.context, `p${n}@example.com`)
    return { ...setting, send: await newsFor(setting.context, setting.listId) }
  }

  it('that can be paused and go on, and a killed engine goes on where it was: each once', async () => {
    const file = join(temporaryFolder(), 'porch.db')
    const { context, send } = await crowd(file)
    const id = scheduleSend(context, send)
    // Put down, and the first bit queued; then the engine is gone.
    await play(context, send.dueAt, { outside: false, goOn: () => rows(context, 'count(*)') === 0 })
    expect([rows(context, 'count(*)') > 0, rows(context, 'count(*)') < MANY]).toEqual([true, true])
    const next = openContext({ file, owner: 'engine-2' })
    pauseSend(next, id)
    await moveTo(next, send.dueAt + HOUR)
    expect([rows(next, 'count(handed_over_at)'), openTask(next.db)]).toEqual([0, undefined])
    resumeSend(next, id)
    await moveTo(next, send.dueAt + 2 * HOUR)
    expect([rows(next, 'count(*)'), rows(next, 'count(DISTINCT person_id)'), rows(next, 'count(handed_over_at)')]).toEqual([
      MANY, MANY, MANY,
    ])
    expect(next.db.prepare(`SELECT count(*) AS arrived, sum(deliveries) AS deliveries FROM mailbox b
      JOIN outbox o ON o.message_ref = b.message_ref
      WHERE o.kind = 'news'`).get()).toEqual({ arrived: MANY, deliveries: MANY })
    expect(taskView(next, findSendById(next.db, id)!.taskId!)).toMatchObject({
      state: 'done', total: MANY, outcomes: [{ outcome: 'queued', people: MANY }],
    })
  })

  it('that can be stopped: what has not left does not leave', async () => {
    const { context, send } = await crowd()
    const id = scheduleSend(context, send)
    await play(context, send.dueAt, { outside: false, goOn: () => rows(context, 'count(*)') === 0 })
    stopTask(context, findSendById(context.db, id)!.taskId!)
    await moveTo(context, send.dueAt + HOUR)
    expect([rows(context, 'count(handed_over_at)'), findSendById(context.db, id)!.state, workOnTask(context)]).toEqual([
      0, 'stopped', false,
    ])
    expect(rows(context, `sum(status = 'withdrawn')`)).toBe(rows(context, 'count(*)'))
    expect(() => stopSend(context, id)).toThrow('not being sent')
    expect(() => resumeSend(context, id)).toThrow('not being sent')
  })
})

it('what the version before sent keeps its place: each email its send and its occasion, each condition its email', () => {
  const old = openDatabase(join(temporaryFolder(), 'old.db'))
  migrate(old, 0, MIGRATIONS.slice(0, 22))
  old.pragma('foreign_keys = OFF')
  const condition = {
    kind: 'all', of: [{ kind: 'email', fate: 'opened', which: { courseId: 3, stepId: 'one' }, within: null, times: 1, url: null }],
  }
  for (const sql of [
    `events (id, kind, at) VALUES (1, 'opted-in', 0)`,
    `people (id, address, address_key, status, source, created_at) VALUES (1, 'a@b.c', 'a@b.c', 'active', 'x', 0)`,
    `lists (id, name, public_name, description, created_at) VALUES (1, 'l', 'l', 'l', 0)`,
    `messages (id, kind, thing_id, step_id, digest, working_title, content, subject, html, text, created_at) VALUES (1, 'course', 3, 'one', '', '', '{}', '', '', '', 0)`,
    `courses (id, name, status, again, draft, created_at, changed_at) VALUES (3, 'c', 'running', 'always', '{}', 0, 0)`,
    `course_versions (id, course_id, number, program, source, published_at) VALUES (1, 3, 1, '{}', '{}', 0)`,
    `enrolments (id, course_id, person_id, visit, version_id, status, joined_at, previous_at, done_steps, own_act, event_id) VALUES (1, 3, 1, 2, 1, 'open', 0, 0, '[]', 0, 1)`,
  ]) old.exec(`INSERT INTO ${sql}`)
  old.prepare('INSERT INTO segments (name, condition, created_at, changed_at) VALUES (?, ?, 0, 0)').run('mine', JSON.stringify(condition))
  const put = old.prepare(`INSERT INTO outbox (kind, thing_id, person_id, to_address, step_id, visit, purpose, message_id, enrolment_id,
    list_id, asked_for,
    cause_id, planned_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0, 1, 0)`)
  for (const [kind, thing, item, visited, purpose] of [
    ['course', 3, 'one', 2, 'first'], ['course', 3, 'one', 2, 'again'], ['course', 3, 'one', 2, 'by-hand-45'],
    ['confirmation', 1, 'reminder', 9, 'again-1'],
    ['waiting', 5, 'asking', 4, 'first'], ['waiting', 5, 'opening', 4, 'first'],
  ] as const) put.run(kind, thing, 1, null, item, visited, purpose, 1, kind === 'course' ? 1 : null, 1)
  put.run('notice', 8, null, 'ines@example.com', 'notice', 0, 'first', null, null, null)
  migrate(old, 1)
  expect(old.prepare(`SELECT o.kind || ' ' || o.owner_id || ' ' || o.item_id || ' ' || occasion FROM outbox o JOIN sends s
    ON s.id = o.send_id AND s.kind = o.kind AND s.owner_id = o.owner_id AND s.item_id = o.item_id ORDER BY o.id`).pluck().all()).toEqual([
    'course 3 one 2', 'course 3 one 2-again', 'course 3 one 2-by-hand-45', 'confirmation 1 reminder 9-again-1', 'waiting 5 asking 4',
    'opening 5 opening 4',
    'notice 0 notice 8',
  ])
  expect(JSON.parse(old.prepare(`SELECT condition FROM segments WHERE name = 'mine'`).pluck().get() as string)).toEqual({
    kind: 'all', of: [{ ...condition.of[0], which: { kind: 'course', ownerId: 3, itemId: 'one' } }],
  })
  old.close()
})

it('what waited for an email of a course by its number waits for the same send', () => {
  const old = openDatabase(join(temporaryFolder(), 'old.db'))
  migrate(old, 0, MIGRATIONS.slice(0, 24))
  const [ofCourse, ofStep] = [{ kind: 'sent', thingId: 3 }, { kind: 'opened', thingId: 3, stepId: 'one' }]
  const rule = old.prepare('INSERT INTO rules (when_kind, thing_id, rule, is_on, made_at, changed_at) VALUES (?, ?, ?, 1, 0, 0)')
  for (const when of [ofCourse, ofStep, { kind: 'opened', thingId: null }, { kind: 'enrolled', thingId: 3 }]) {
    rule.run(when.kind, when.thingId, JSON.stringify({ when, note: '"kind":"sent"' }))
  }
  old.prepare(`INSERT INTO courses (id, name, status, again, draft, created_at, changed_at) VALUES (3, 'c', 'draft', 'always', ?, 0, 0)`)
    .run(JSON.stringify({ waysOut: [{ id: 'x', when: ofStep, fromStepId: null }] }))
  migrate(old, 1)
  const step = { kind: 'course', ownerId: 3, itemId: 'one' }
  expect(allRules(old).map(({ when }) => when)).toEqual([
    { kind: 'sent', thingId: null, which: { ...step, itemId: null } }, { kind: 'opened', thingId: null, which: step },
    { kind: 'opened', thingId: null }, { kind: 'enrolled', thingId: 3 },
  ])
  expect(old.prepare('SELECT thing_id FROM rules').pluck().all()).toEqual([null, null, null, 3])
  expect(JSON.parse(old.prepare('SELECT draft FROM courses').pluck().get() as string)).toEqual({
    waysOut: [{ id: 'x', when: { kind: 'opened', thingId: null, which: step }, fromStepId: null }],
  })
  old.close()
})

it('what is asked about all that was sent, or waits, is found by its time, however many kinds it is asked of', () => {
  const { db } = openContext()
  /** How the one statement of a question is answered, by the database's own word. */
  const planOf = (ask: (db: Database) => unknown, ...values: number[]) => {
    const sql: string[] = []
    ask(new Proxy(db, { get: (target, name) => name === 'prepare'
      ? (text: string) => (sql.push(text), target.prepare(text)) : target[name as 'name'] }))
    expect(sql).toHaveLength(1)
    return db.prepare<unknown[], { detail: string }>(`EXPLAIN QUERY PLAN ${sql[0]}`).all(...values).map(({ detail }) => detail).join('; ')
  }
  expect(planOf(asked => sentBetween(asked, 0, 1), 0, 1))
    .toContain('COVERING INDEX outbox_by_hand_over (handed_over_at>? AND handed_over_at<?)')
  expect(planOf(asked => emailsWaiting(asked, 1), 1)).toMatch(/INDEX outbox_\w+ \((status=\? AND )?go_at/)
})

it('a claim reads no more of a broadcast that waits than it claims', () => {
  const { db } = openContext()
  const sql: string[] = []
  leaseEmails(new Proxy(db, { get: (target, name) => name === 'prepare'
    ? (text: string) => (sql.push(text), target.prepare(text)) : target[name as 'name'] }), 'somebody', 1, 2, 32)
  const plans = sql.map(text => db.prepare<unknown[], { detail: string }>(`EXPLAIN QUERY PLAN ${text}`)
    .all(...Array.from({ length: text.split('?').length - 1 }, () => 1)).map(({ detail }) => detail))
  expect(plans.map(plan => plan.findLast(detail => /^SCAN|outbox_go/.test(detail)) ?? 'the few of the owner')).toEqual([
    ...['outbox_go_of_course', 'outbox_go_of_course', 'outbox_go_asked', 'outbox_go']
      .map(index => `SEARCH outbox USING INDEX ${index} (go_at>? AND go_at<?)`), 'the few of the owner',
  ])
})
