/** Sending hours and personal dates, as the engine keeps them. */
import { describe, expect, it } from 'vitest'
import { newRule } from '#core/rules/rule'
import { both, daily } from '#core/time/hours'
import { instantOf, localOf } from '#core/time/zone'
import { eventsOfPerson } from '#data/events'
import { findField } from '#data/fields'
import { emailsOfPerson } from '#data/outbox'
import { stopCarrier } from '#data/workspace'
import { publishChanges } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { setField } from '#usecases/inner/facts/fieldValue'
import { transact } from '#usecases/inner/reactor/transaction'
import { giveTagByHand } from '#usecases/know/byHand'
import { removeField, saveField } from '#usecases/know/fields'
import { saveRule } from '#usecases/know/rules'
import { saveSendingHours } from '#usecases/settings/hours'
import { resumeSending } from '#usecases/settings/workspace'
import { findCourse } from '#data/courses'
import { forecast } from '#usecases/views/forecast'
import { InputProblem } from '#usecases/problem'
import { rowsOf } from './dump'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const office = daily([1, 2, 3, 4, 5], '08:00', '18:00')
const lisbon = (date: string, time: string) => instantOf(date, time, 'Europe/Lisbon')
const said = (at: number | null) => at === null ? null : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (context: Workshop, id: number) =>
  emailsOfPerson(context.db, id).reverse().map(one => `${one.itemId} ${said(one.handedOverAt)}`)
const daysApart = () => [
  step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
  step('three', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
]

describe('sending hours', () => {
  it('hold every email of a course but what was just asked for, the same in one move as in many, and the rail says so before', async () => {
    const story = async (moves: number) => {
      const { context, tagId } = await furnish(openContext(), daysApart)
      saveSendingHours(context, office)
      const friday = lisbon('2026-11-27', '20:00')
      await moveTo(context, friday)
      const [own, brought] = [visit(context, 'own@example.com'), visit(context, 'brought@example.com')]
      giveTagByHand(context, brought, tagId)
      const coming = forecast(context, DAY).map(({ itemId: stepId, at }) => `${stepId} ${said(at)}`)
      for (let n = 1; n <= moves; n++) await moveTo(context, friday + n * 12 * DAY / moves)
      return { own: sent(context, own), coming, rows: rowsOf(context.db) }
    }
    const [one, many] = [await story(1), await story(24)]
    expect(one.own).toEqual(['one 2026-11-27 20:00', 'two 2026-11-30 08:00', 'three 2026-12-01 08:00'])
    expect(one.coming).toEqual(expect.arrayContaining(['two 2026-11-30 08:00', 'three 2026-12-01 08:00']))
    expect(many).toEqual(one)
  })

  it('changed while people stand inside, their unsent emails are planned anew; hours that never open are refused', async () => {
    const { context, courseId } = await furnish(openContext(), daysApart)
    const id = visit(context, 'p@example.com')
    saveSendingHours(context, daily([1, 2, 3, 4, 5, 6, 7], '18:30', '19:30'))
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-27 18:30', 'three 2026-11-28 18:30'])
    expect(() => saveSendingHours(context, '0'.repeat(336))).toThrow(InputProblem)
    const { name, draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, name, { ...draft, hours: daily([6], '19:00', '20:00') })
    await publishChanges(context, courseId)
    expect(() => saveSendingHours(context, office)).toThrow(expect.objectContaining({
      problems: [{ field: 'hours', problem: expect.stringContaining('Fold, Sew, Cover has its own sending hours') }],
    }))
    // The course cannot be published with hours that never overlap with the workspace's.
    saveCourse(context, courseId, name, { ...draft, hours: office })
    await expect(publishChanges(context, courseId)).rejects.toMatchObject({
      problems: [{ problem: expect.stringContaining('never overlap') }],
    })
    expect(both(office, daily([6], '19:00', '20:00'))).not.toContain('1')
  })

  it('hold what is late after an outage, too, and what a house rule sends', async () => {
    const { context, tagId, interestId, listId } = await furnish(openContext(), daysApart)
    saveSendingHours(context, office)
    await saveRule(
      context, null,
      newRule({ kind: 'got-tag', thingId: interestId }, [{ kind: 'email', listId, messageId: null, content: email('thanks') }]),
    )
    const id = visit(context, 'p@example.com')
    expect(tagId).toBeGreaterThan(0)
    stopCarrier(context.db, 'the mail server refused', context.clock.now())
    await moveTo(context, lisbon('2026-11-27', '19:00'))
    giveTagByHand(context, id, interestId)
    resumeSending(context)
    await moveTo(context, lisbon('2026-11-30', '12:00'))
    // The first was asked for and goes as soon as it can; the second was planned for Friday noon and is late; the third falls on a
    // Saturday; the rule's waits like them.
    expect(sent(context, id)).toEqual(['one 2026-11-27 19:00', 'two 2026-11-30 08:00', 'email 2026-11-30 08:00', 'three 2026-11-30 08:00'])
  })
})

describe('a step by a date of the person', () => {
  async function dated() {
    const context = openContext()
    const setting = await furnish(context, () => [step('one', { kind: 'at-once' })])
    const fieldId = saveField(context, null, { name: 'renewal', label: '', kind: 'date', choices: [] })
    const { name, draft } = findCourse(context.db, setting.courseId)!
    saveCourse(context, setting.courseId, name, {
      ...draft,
      steps: [step('one', { kind: 'at-once' }), step('two', { kind: 'date-field', fieldId, days: -2, time: '09:00', everyMonths: 0 })],
    })
    await publishChanges(context, setting.courseId)
    const set = (id: number, value: string | null) =>
      transact(context, () => setField(context.db, id, fieldId, value, { at: context.clock.now(), causeId: null, ownAct: false }))
    return { ...setting, fieldId, set }
  }

  it('passes over who has none, with that in the history', async () => {
    const { context, set } = await dated()
    const unknown = visit(context, 'unknown@example.com')
    expect(eventsOfPerson(context.db, unknown).find(({ kind }) => kind === 'skipped-step')?.detail).toBe('no-date')
    // Past that step, they do not come back to it because the date is learned.
    set(unknown, '2026-12-20')
    await moveTo(context, thursdayNoon + 40 * DAY)
    expect(sent(context, unknown)).toEqual(['one 2026-11-26 12:00'])
  })

  it('a date known before is kept to, moved with it, and sent once', async () => {
    const { context, set, fieldId, pageId } = await dated()
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    set(id, '2026-12-20')
    // In again: now the date is known.
    visit(context, 'p@example.com')
    expect(pageId).toBeGreaterThan(0)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    set(id, '2026-12-10')
    await moveTo(context, thursdayNoon + 40 * DAY)
    expect(sent(context, id).at(-1)).toBe('two 2026-12-08 09:00')
    expect(() => removeField(context, fieldId, 1)).toThrow('the course “Fold, Sew, Cover”')
    expect(findField(context.db, fieldId)).toBeDefined()
  })
})
