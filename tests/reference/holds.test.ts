/**
 * Waiting for a click, at most a day; and leaving by one.
 *
 * Common practice, no source: a wait of 24 hours is over to the minute, a click
 * one minute before counts and one a minute after does not; who clicks in a
 * course that ends with a click gets none of its later emails; of several ways
 * the first that is true is taken, so that who has both of two things goes the
 * way for both.
 */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import type { Timing } from '#core/time/when'
import { findCourse } from '#data/courses'
import { enrolmentsOfPerson } from '#data/enrolments'
import { emailsOfPerson } from '#data/outbox'
import { publishChanges } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { recordClick } from '#usecases/reading/click'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from '../service/workshop'

const MINUTE = HOUR / 60
const button =
  { body: { type: 'doc' as const, content: [
    { type: 'button' as const, attrs: { label: 'Yes', url: 'https://saltmarsh.example.com/yes', tagId: null } },
  ] } }
const sent = (context: Workshop, id: number) => emailsOfPerson(context.db, id).reverse().filter(one => one.status === 'handed over')
  .map(one => `${one.itemId} ${((one.handedOverAt! - thursdayNoon) / HOUR).toFixed(2)}`)
/** No machine reads along here: the reader presses, and that counts. */
const clicks = (context: Workshop, id: number, stepId: string) => recordClick(
  context, emailsOfPerson(context.db, id).find(one => one.itemId === stepId)!.id, 0, { agent: 'a reader', robot: false, certain: true },
)

describe('a hold until a click, at most 24 hours', () => {
  const asks = () => [
    step('ask', { kind: 'at-once' }, email('ask', button)),
    {
      id: 'h', kind: 'hold' as const, when: { kind: 'at-once' } as Timing, ifPast: 'at-once' as const, zone: 'workspace' as const,
      until: { kind: 'event' as const, when: { kind: 'clicked' as const, thingId: null, stepId: 'ask' } },
      atMost: { count: 24, unit: 'hours' as const }, did: [step('did', { kind: 'at-once' })],
      didNot: [step('did-not', { kind: 'at-once' })],
    },
  ]
  // 24 hours and one second is 24 hours by the minute, and too late all the same.
  it.each([
    ['23:59', 24 * HOUR - MINUTE, 'did', '23.98'], ['24:00, exactly', 24 * HOUR, 'did', '24.00'],
    ['24:00 and a second', 24 * HOUR + 1000, 'did-not', '24.00'], ['24:01', 24 * HOUR + MINUTE, 'did-not', '24.00'],
  ])('followed after %s', async (_, after, way, at) => {
    const { context } = await furnish(openContext(), asks)
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + after)
    clicks(context, id, 'ask')
    await moveTo(context, thursdayNoon + 3 * DAY)
    const got = sent(context, id)
    expect(got.map(line => line.split(' ')[0])).toEqual(['ask', way])
    // Who did not is known a little later, as clicks are judged first; what is planned counts from the limit all the same.
    const row = emailsOfPerson(context.db, id).find(({ itemId: stepId }) => stepId === way)!
    expect(((row.plannedAt - thursdayNoon) / HOUR).toFixed(2)).toBe(at)
  })
})

describe('three emails, five days apart, left by a click', () => {
  it.each([
    [null, ['one 0.00', 'two 120.00', 'three 240.00'], 'finished'], ['one', ['one 0.00'], 'left'],
    ['two', ['one 0.00', 'two 120.00'], 'left'], ['three', ['one 0.00', 'two 120.00', 'three 240.00'], 'finished'],
  ] as const)('in %s', async (clicked, expected, end) => {
    const { context, courseId } = await furnish(openContext(), () => ['one', 'two', 'three'].map((id, n) =>
      step(id, n === 0 ? { kind: 'at-once' } : { kind: 'elapsed', count: 5, unit: 'days', from: 'previous' }, email(id, button))))
    const { name, draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, name, { ...draft, waysOut: [{ id: 'w', when: { kind: 'clicked', thingId: null }, fromStepId: null }] })
    await publishChanges(context, courseId)
    const id = visit(context, 'ada@example.com')
    for (let day = 1; day <= 30; day++) {
      await moveTo(context, thursdayNoon + day * DAY)
      if (clicked && day === { one: 4, two: 9, three: 12 }[clicked]) clicks(context, id, clicked)
    }
    expect(sent(context, id)).toEqual(expected)
    expect(enrolmentsOfPerson(context.db, id).map(({ status }) => status)).toEqual([end])
  })
})

describe('a fork on two freebies', () => {
  it('who holds both takes the way for both, who holds one its own, who holds none the rest', async () => {
    const context = openContext()
    const [kit, chart] = ['kit', 'chart'].map(name => saveTag(context, null, tag(name)))
    const holds = (...ids: number[]): Condition => ({ kind: 'all', of: ids.map(tagId => ({ kind: 'tag', tagId, since: null })) })
    const way = (id: string, who: Condition) => ({ id, who, steps: [step(id, { kind: 'at-once' })] })
    await furnish(context, () => [
      step('ask', { kind: 'at-once' }),
      {
        id: 'f', kind: 'fork', when: { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' }, ifPast: 'at-once', zone: 'workspace',
        ways: [way('both', holds(kit!, chart!)), way('kit', holds(kit!)), way('chart', holds(chart!))],
        otherwise: [step('none', { kind: 'at-once' })],
      },
    ])
    const held: Record<string, number[]> = { both: [kit!, chart!], kit: [kit!], chart: [chart!], none: [] }
    const people = Object.entries(held).map(([name, tags]) => {
      const id = visit(context, `${name}@example.com`)
      for (const tagId of tags) giveTagByHand(context, id, tagId)
      return [name, id] as const
    })
    await moveTo(context, thursdayNoon + DAY)
    for (const [name, id] of people) expect(sent(context, id), name).toEqual(['ask 0.00', `${name} 1.00`])
  })
})
