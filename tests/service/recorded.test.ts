/**
 * What comes of what, recorded: courses, rules and acts thrown from a seed, and every event they led to, in its order and with its cause.
 * A change of shape must lead to the very same. Where an order is meant to change, `npx vitest run recorded -u` writes it down anew, and
 * the commit says why it is better.
 */
import { expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { diceOf } from '#core/dice'
import { newRule, type Action, type Trigger } from '#core/rules/rule'
import type { DraftStep } from '#core/sequence/draft'
import type { Reaction, Until } from '#core/sequence/program'
import { emailsOfPerson } from '#data/outbox'
import { insertRule } from '#data/rules'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { correctPerson, giveTagByHand, joinListByHand, leaveListByHand, markUnreachable, takeTagByHand } from '#usecases/know/byHand'
import { saveField } from '#usecases/know/fields'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { recordClick } from '#usecases/reading/click'
import { recordOpen } from '#usecases/reading/open'
import { saveScoreRule } from '#usecases/settings/score'
import { email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit } from './workshop'

const WORLDS = 40
const PEOPLE = 3
const ACTS = 9
const reader = { robot: false, certain: true, agent: 'a reader' }

/** Everything of one world, thrown by its dice. */
async function world(seed: number): Promise<string[]> {
  const dice = diceOf(seed)
  const upTo = (n: number) => Math.floor(dice() * n)
  const pick = <One>(all: readonly One[]): One => all[upTo(all.length)]!
  const some = <One>(least: number, most: number, make: (
    n: number,
  ) => One): One[] => Array.from({ length: least + upTo(most - least + 1) }, (_, n) => make(n))

  const { context, courseId: first, listId, tagId } = await furnish(openContext())
  const { db } = context
  const tags = [tagId, ...['a', 'b', 'c'].map(name => saveTag(context, null, tag(name)))]
  const lists = [listId, saveList(context, null, { name: 'second', publicName: 'Second', description: '' })]
  const fieldId = saveField(context, null, { label: 'Books', name: 'books', kind: 'number', choices: [] })
  const courses = [first, createCourse(context, 'Second', 'x'), createCourse(context, 'Third', 'x')]

  const trigger = (): Trigger => pick<() => Trigger>([
    () => ({ kind: 'got-tag', thingId: pick(tags) }), () => ({ kind: 'got-tag', thingId: pick(tags) }),
    () => ({ kind: 'lost-tag', thingId: pick(tags) }),
    () => ({ kind: 'joined-list', thingId: pick(lists) }), () => ({ kind: 'left-list', thingId: pick(lists) }),
    () => ({ kind: 'enrolled', thingId: pick(courses) }),
    () => ({ kind: 'finished-course', thingId: pick(courses) }), () => ({ kind: 'left-course', thingId: pick(courses) }),
    () => ({ kind: 'field-changed', thingId: fieldId }),
    () => ({ kind: 'reached-score', thingId: null, points: pick([3, 6, 9]) }),
  ])()
  const who = (): Condition => pick<() => Condition>([
    () => ({ kind: 'all', of: [] }), () => ({ kind: 'all', of: [{ kind: 'tag', tagId: pick(tags), since: null }] }),
    () => ({ kind: 'none', of: [{ kind: 'tag', tagId: pick(tags), since: null }] }),
    () => ({ kind: 'all', of: [{ kind: 'list', listId: pick(lists), is: 'joined' }] }),
    () => ({ kind: 'all', of: [{ kind: 'course', courseId: pick(courses), is: 'inside', stepId: null }] }),
  ])()
  const action = (): Action => pick<() => Action>([
    () => ({ kind: 'give-tag', tagId: pick(tags) }), () => ({ kind: 'give-tag', tagId: pick(tags) }),
    () => ({ kind: 'take-tag', tagId: pick(tags) }),
    () => ({ kind: 'join-list', listId: pick(lists) }), () => ({ kind: 'leave-list', listId: pick(lists) }),
    () => ({ kind: 'set-field', fieldId, value: upTo(4) }),
    () => ({ kind: 'score', points: pick([1, 2, 3, -1]) }), () => ({ kind: 'enrol', courseId: pick(courses) }),
    () => ({ kind: 'leave-course', courseId: pick(courses) }),
    () => ({ kind: 'status', to: pick(['resting', 'active', 'unsubscribed'] as const) }),
    () => ({ kind: 'notice', text: 'look', email: 'no' as const }),
    () => ({ kind: 'todo', text: 'write', days: 1, helper: '' }),
  ])()
  const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })

  let named = 0
  const steps = (depth: number): DraftStep[] => some(1, depth === 0 ? 4 : 2, (): DraftStep => {
    const base = {
      id: `s${++named}`, when: pick([{ kind: 'at-once' as const }, hours(1 + upTo(30))]), ifPast: 'at-once' as const,
      zone: 'workspace' as const,
    }
    const reaction = (on: Reaction['on']): Reaction => ({
      id: on, on, ...on === 'not-opened' && { within: { count: 20, unit: 'hours' } }, then: [action()],
    })
    const mail = () =>
      step(base.id, base.when, email(base.id), { reactions: [reaction(pick(['sent', 'opened', 'clicked', 'not-opened']))] })
    const until = (): Until =>
      dice() < 0.6 ? { kind: 'event', when: { kind: 'got-tag', thingId: pick(tags) } } : { kind: 'condition', who: who() }
    return pick<() => DraftStep>(depth > 1 ? [mail, () => ({ ...base, kind: 'do', then: some(1, 2, action) })] : [
      mail, mail, () => ({ ...base, kind: 'do', then: some(1, 2, action) }),
      () => ({
        ...base, kind: 'hold', until: until(), atMost: { count: 5 + upTo(40), unit: 'hours' }, did: steps(depth + 1),
        didNot: steps(depth + 1),
      }),
      () => ({ ...base, kind: 'fork', ways: [{ id: `w${named}`, who: who(), steps: steps(depth + 1) }], otherwise: steps(depth + 1) }),
    ])()
  })
  for (const [n, courseId] of courses.entries()) {
    if (n === 0) continue
    saveCourse(context, courseId, `Course ${n}`, {
      listId: pick(lists), joinsList: dice() < 0.5, wayInTagIds: [pick(tags)], wayInListIds: dice() < 0.3 ? [pick(lists)] : [],
      again: pick(['once', 'after-ending', 'always'] as const),
      ...dice() < 0.3 && { entry: who() }, waysOut: dice() < 0.4 ? [{ id: 'out', when: trigger(), fromStepId: null }] : [],
      onFinish: dice() < 0.5 ? [action()] : [],
      steps: [step(`s${++named}`, pick([{ kind: 'at-once' as const }, hours(2)]), email(`first of ${n}`)), ...steps(0)],
    } as Parameters<typeof saveCourse>[3])
    await startCourse(context, courseId)
  }
  saveScoreRule(context, { halfLifeDays: 30, thresholds: [3, 6, 9], points: { 'opened': 1, 'clicked': 2, 'opted-in': 1 } })
  for (const rule of some(
    3, 7, () => ({ ...newRule(trigger(), some(1, 3, action)), who: who(), often: pick([{ kind: 'each' }, { kind: 'once' }] as const) }),
  )) {
    insertRule(db, rule as Parameters<typeof insertRule>[1], thursdayNoon)
  }

  const people = Array.from({ length: PEOPLE }, (_, n) => visit(context, `p${n}@example.com`))
  let now = thursdayNoon
  for (let act = 0; act < ACTS; act++) {
    await moveTo(context, now += upTo(20) * HOUR)
    const id = pick(people)
    const mails = emailsOfPerson(db, id).filter(one => one.handedOverAt !== null && one.kind === 'course')
    // What cannot be done to somebody just now is not done.
    const tries: (() => void)[] = [
      () => giveTagByHand(context, id, pick(tags)), () => giveTagByHand(context, id, pick(tags)),
      () => takeTagByHand(context, id, pick(tags)),
      () => joinListByHand(context, id, pick(lists)), () => leaveListByHand(context, id, pick(lists)),
      () => markUnreachable(context, id, 'bounced', 'said so'),
      () => correctPerson(context, id, {
        firstName: 'Ada', zone: pick([null, 'Asia/Tokyo']), country: null, fields: { [fieldId]: String(upTo(3)) },
      }),
      () => mails.length > 0 && recordOpen(context, pick(mails).id, reader),
      () => mails.length > 0 && recordClick(context, pick(mails).id, 0, reader),
      () => visit(context, `p${people.indexOf(id)}@example.com`),
    ]
    try {
      pick(tries)()
    }
    catch (error) {
      if (!(error instanceof Error) || error.name === 'SqliteError') throw error
    }
  }
  await moveTo(context, now + 100 * HOUR)
  return told(db)
}

/** Every event in a line: where it stands, when, what, of whom, about what, and by which before it. */
function told(db: ReturnType<typeof openContext>['db']): string[] {
  const about = ['page_id', 'list_id', 'tag_id', 'course_id', 'outbox_id', 'step_id', 'field_id', 'rule_id', 'link_n', 'detail']
  const events = db.prepare<[], Record<string, number | string | null>>('SELECT * FROM events WHERE person_id IS NOT NULL ORDER BY id')
    .all()
  const place = new Map(events.map(({ id }, n) => [id, n]))
  return events.map((event, n) => [
    n, ((Number(event.at) - thursdayNoon) / HOUR).toFixed(2), event.kind, `p${event.person_id}`,
    ...about.filter(name => event[name] !== null).map(name => `${name.replace(/_id$/, '')}=${event[name]}`),
    event.cause_id === null ? '' : `by ${place.get(event.cause_id) ?? '?'}`,
  ].join(' ').trim())
}

it.each(Array.from({ length: WORLDS }, (_, n) => n + 1))('world %i leads to what it led to before, event for event', async (seed) => {
  const lines = await world(seed)
  // A world in which nothing happens would prove little.
  expect(lines.length).toBeGreaterThan(40)
  await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot(`recorded/world-${seed}.txt`)
})
