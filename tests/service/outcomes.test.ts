/**
 * What came of a course: its flow, its joining weeks and what was bought, against what is known to have happened; each number against the
 * people that it opens.
 */
import { describe, expect, it } from 'vitest'
import type { MessageContent } from '#core/message/content'
import { findCourse } from '#data/courses'
import { emailsOfPerson } from '#data/outbox'
import { leave } from '#usecases/arrive/leave'
import { publishChanges } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { recordClick } from '#usecases/reading/click'
import { courseNumbers, whoBehind } from '#usecases/views/courseNumbers'
import type { WhoAsked } from '#core/views/courseNumbers'
import { buy, openContext, openShop } from './shop'
import { DAY, email, furnish, HOUR, moveTo, step, thursdayNoon, visit, type Workshop } from './workshop'

const withButton = (title: string): MessageContent => email(title, { body: { type: 'doc', content: [{
  type: 'paragraph', content: [{ type: 'text', text: title }],
}, { type: 'button', attrs: { label: 'See the journals', url: 'https://saltmarsh.example.com/journals', tagId: null } }] } })

async function lived() {
  const setting = await furnish(openContext(), () => [
    step('one', { kind: 'at-once' }, withButton('one')),
    step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, withButton('two')),
    step('three', { kind: 'elapsed', count: 3, unit: 'days', from: 'previous' }),
  ])
  const { context, courseId } = await openShop(setting)
  const people = new Map<string, number>()
  const joins = (name: string) => people.set(name, visit(context, `${name}@example.com`))
  const follows = (name: string, stepId: string) => recordClick(
    context, emailsOfPerson(context.db, people.get(name)!).find(one => one.itemId === stepId)!.id, 0,
    { robot: false, certain: true, agent: 'a test' },
  )
  for (const name of ['ana', 'rui', 'noor', 'kim', 'late']) joins(name)
  await moveTo(context, thursdayNoon + HOUR)
  for (const name of ['rui', 'late']) follows(name, 'one')
  leave(context, emailsOfPerson(context.db, people.get('noor')!)[0]!.id, { what: 'course' })
  await moveTo(context, thursdayNoon + DAY + HOUR)
  for (const name of ['ana', 'rui']) follows(name, 'two')
  await moveTo(context, thursdayNoon + DAY + 2 * HOUR)
  for (const name of ['ana', 'rui', 'kim']) await buy(context, `${name}@example.com`)
  // Monday of the week after.
  await moveTo(context, thursdayNoon + 4 * DAY)
  joins('lee')
  await moveTo(context, thursdayNoon + 4 * DAY + HOUR)
  // More than seven days after they followed a link.
  await moveTo(context, thursdayNoon + 9 * DAY)
  await buy(context, 'late@example.com')
  return { context, courseId }
}

const named = (context: Workshop, courseId: number, asked: WhoAsked) =>
  whoBehind(context, { courseId, asked, from: 0 }).people.map(({ name }) => name.split('@')[0]).sort()

describe('what came of a course', () => {
  it('is told by where journeys led, by joining weeks, and by the email whose link was followed last before buying', async () => {
    const { context, courseId } = await lived()
    const { emails, flow, cohorts, clickDays } = courseNumbers(context, courseId)
    expect(clickDays).toBe(7)
    expect(emails).toEqual([
      { stepId: 'one', title: 'one', gone: false, bought: 0 }, { stepId: 'two', title: 'two', gone: false, bought: 2 },
      { stepId: 'three', title: 'three', gone: false, bought: 0 },
    ])
    expect(flow.map(({ from, to, people }) => `${from ?? 'door'} > ${'end' in to ? to.end : to.stepId} ${people}`).sort()).toEqual([
      'door > one 6', 'one > left 1', 'one > two 5', 'three > finished 5', 'two > three 5',
    ])
    // 30 November 2026 is a Monday.
    expect(cohorts.map(({ from, to, ...row }) => ({ from: new Date(from).toISOString(), days: (to - from) / DAY, ...row }))).toEqual([
      {
        from: '2026-11-30T00:00:00.000Z', days: 7, joined: 1, inside: 0, finished: 1, left: 0, bought: 0,
        sent: { one: 1, two: 1, three: 1 },
      },
      {
        from: '2026-11-23T00:00:00.000Z', days: 7, joined: 5, inside: 0, finished: 4, left: 1, bought: 4,
        sent: { one: 5, two: 4, three: 4 },
      },
    ])
    expect(named(context, courseId, { bought: 'two', clickMs: 7 * DAY })).toEqual(['ana', 'rui'])
    expect(named(context, courseId, { after: 'one', end: 'left' })).toEqual(['noor'])
    const week = { from: cohorts[1]!.from, to: cohorts[1]!.to }
    expect(named(context, courseId, { week, is: 'bought' })).toEqual(['ana', 'kim', 'late', 'rui'])
    expect(named(context, courseId, { week, is: 'joined' })).toEqual(['ana', 'kim', 'late', 'noor', 'rui'])
  })

  it('every number of the flow and of the weeks opens as many people, while some are inside and when one comes again', async () => {
    const { context, courseId } = await lived()
    visit(context, 'noor@example.com')
    visit(context, 'new@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY + HOUR)
    const { flow, cohorts } = courseNumbers(context, courseId)
    const ends = flow.filter(({ to }) => 'end' in to)
    expect(ends.map(({ to }) => 'end' in to && to.end)).toContain('inside')
    for (const { from, to, people } of ends) {
      if ('end' in to) expect(named(context, courseId, { after: from, end: to.end })).toHaveLength(people)
    }
    for (const { from, to, ...row } of cohorts) for (const is of [
      'joined', 'inside', 'finished', 'left', 'bought',
    ] as const) expect(named(context, courseId, { week: { from, to }, is }), `${is} of ${from}`).toHaveLength(row[is])
    // Who came again is two journeys of the flow, and one person of each week.
    expect(flow.find(({ from }) => from === null)!.people).toBe(8)
  })

  it('an email that was taken out stands at the end, with the name it had last', async () => {
    const { context, courseId } = await lived()
    const { name, draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, name, { ...draft, steps: draft.steps.filter(({ id }) => id !== 'two') })
    expect(courseNumbers(context, courseId).emails.map(({ stepId, title, gone }) => `${stepId} ${title} ${gone}`)).toEqual([
      'one one false', 'three three false', 'two two true',
    ])
    await publishChanges(context, courseId)
    expect(courseNumbers(context, courseId).emails.at(-1)).toEqual({ stepId: 'two', title: 'two', gone: true, bought: 2 })
  })

  it('people stand behind a number a hundred at a time', async () => {
    const { context, courseId } = await furnish(openContext())
    for (let n = 0; n < 103; n++) visit(context, `p${n}@example.com`)
    await moveTo(context, thursdayNoon + HOUR)
    const asked: WhoAsked = { after: 'one', end: 'inside' }
    const [first, rest] = [0, 100].map(from => whoBehind(context, { courseId, asked, from }))
    expect([first!.people.length, first!.more, rest!.people.length, rest!.more]).toEqual([100, true, 3, false])
    expect(new Set([...first!.people, ...rest!.people].map(({ personId }) => personId)).size).toBe(103)
  })
})
