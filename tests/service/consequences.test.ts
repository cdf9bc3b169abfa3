/** What follows from what, in which order, and by whose doing it is written down. */
import { describe, expect, it } from 'vitest'
import { newRule } from '#core/rules/rule'
import type { DraftStep } from '#core/sequence/draft'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { askPracticeClock, setPracticeClock } from '#data/workspace'
import { leave } from '#usecases/arrive/leave'
import { takeBack } from '#usecases/arrive/takeBack'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { giveTag } from '#usecases/inner/facts/marks'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { noteReply } from '#usecases/know/todos'
import { furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Setting } from './workshop'

type Draft = Parameters<typeof saveCourse>[3]

/** Another course that runs. */
async function course({ context, listId }: Setting, draft: Partial<Draft>): Promise<number> {
  const id = createCourse(context, 'Another', 'x')
  saveCourse(
    context, id, 'Another', { listId, wayInTagIds: [], again: 'once', steps: [step('first', { kind: 'at-once' })], ...draft } as Draft,
  )
  await startCourse(context, id)
  return id
}

const journeysIn = ({ context }: Setting, personId: number, courseId: number) =>
  enrolmentsOfPerson(context.db, personId).filter(row => row.courseId === courseId)

describe('what a page gives', () => {
  it('is all given before courses begin with it: one that both its list and its tag start begins once, however often people may come in', async () => {
    const setting = await furnish(openContext())
    const { context, listId, tagId } = setting
    const id = await course(setting, { wayInTagIds: [tagId], wayInListIds: [listId], again: 'always' })
    const person = visit(context, 'a@example.com')
    const emails = emailsOfPerson(context.db, person).filter(({ ownerId, kind }) => kind === 'course' && ownerId === id)
    // Whoever may come in always begins anew by the second way in, and nothing had been done by the first.
    expect(emails.map(({ itemId, status }) => [itemId, status])).toEqual([['first', 'queued']])
  })

  it('counts for who may come into a course, whatever stands first on the page', async () => {
    const setting = await furnish(openContext())
    const { context, listId, tagId } = setting
    const id = await course(setting, { wayInListIds: [listId], entry: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] } })
    expect(journeysIn(setting, visit(context, 'a@example.com'), id)).toHaveLength(1)
  })
})

describe('the actions of a rule', () => {
  it('are done as they stand there: a course that one begins can be left by the next', async () => {
    const setting = await furnish(openContext())
    const { context } = setting
    const begins = saveTag(context, null, tag('begins'))
    const woken = saveTag(context, null, tag('woken'))
    const id = await course(setting, { wayInTagIds: [begins] })
    await saveRule(context, null, newRule({ kind: 'got-tag', thingId: woken }, [
      { kind: 'give-tag', tagId: begins }, { kind: 'leave-course', courseId: id },
    ]), true)
    const person = visit(context, 'a@example.com')
    giveTagByHand(context, person, woken)
    await moveTo(context, thursdayNoon + HOUR)
    expect(journeysIn(setting, person, id)).toMatchObject([{ status: 'left' }])
    expect(emailsOfPerson(context.db, person).some(({ ownerId }) => ownerId === id)).toBe(false)
  })

  it('come after what was due before them, which is not put down to the rule', async () => {
    const setting = await furnish(openContext())
    const { context } = setting
    const [late, woken] = [saveTag(context, null, tag('late')), saveTag(context, null, tag('woken'))]
    const steps: DraftStep[] = [
      step('first', { kind: 'at-once' }),
      {
        id: 'does', kind: 'do', when: { kind: 'elapsed', count: 2, unit: 'hours', from: 'previous' }, ifPast: 'at-once', zone: 'workspace',
        then: [{ kind: 'give-tag', tagId: late }],
      },
    ]
    const began = saveTag(context, null, tag('began'))
    await course(setting, { wayInTagIds: [began], steps })
    await saveRule(context, null, newRule({ kind: 'replied', thingId: null }, [{ kind: 'give-tag', tagId: woken }]), true)
    const person = visit(context, 'a@example.com')
    giveTagByHand(context, person, began)
    await moveTo(context, thursdayNoon + HOUR)
    // The machine was off for a while: nothing has been played since.
    askPracticeClock(context.db, thursdayNoon + 5 * HOUR)
    setPracticeClock(context.db, thursdayNoon + 5 * HOUR)
    noteReply(context, person)
    const got = eventsOfPerson(context.db, person).filter(({ tagName }) => tagName === 'late' || tagName === 'woken')
    expect(got.map(({ tagName, ruleId, at }) => [tagName, ruleId !== null, at]).reverse()).toEqual([
      ['late', false, thursdayNoon + 2 * HOUR], ['woken', true, thursdayNoon + 5 * HOUR],
    ])
    expect(hasTag(context.db, late, person)).toBe(true)
  })
})

it('taking a leaving back brings people back to where they stood, and begins nothing that their list begins', async () => {
  const setting = await furnish(openContext())
  const { context, listId } = setting
  const id = await course(setting, {
    wayInListIds: [listId], again: 'always',
    steps: [step('first', { kind: 'at-once' }), step('second', { kind: 'elapsed', count: 2, unit: 'days', from: 'previous' })],
  })
  const person = visit(context, 'a@example.com')
  await moveTo(context, thursdayNoon + HOUR)
  const [mail] = emailsOfPerson(context.db, person)
  leave(context, mail!.id, { what: 'list', listId })
  expect(journeysIn(setting, person, id)).toMatchObject([{ status: 'left' }])
  takeBack(context, mail!.id)
  expect(journeysIn(setting, person, id)).toMatchObject([{ status: 'open', stepId: 'second' }])
})

it('asking for something a second time is written down where a course begins with it, and lets in whoever may come in again', async () => {
  const { context } = await furnish(openContext(), undefined, 'always')
  const person = visit(context, 'a@example.com')
  await moveTo(context, thursdayNoon + HOUR)
  visit(context, 'a@example.com')
  const events = eventsOfPerson(context.db, person)
  const asked = events.find(({ kind }) => kind === 'asked-again')!
  expect(events.find(({ kind }) => kind === 'enrolled')).toMatchObject({ causeId: asked.id })
})

it('nobody is changed outside the transaction of a use case, where nothing would follow from it', async () => {
  const { context, interestId } = await furnish(openContext())
  const person = visit(context, 'a@example.com')
  expect(() => giveTag(context.db, person, interestId, { at: thursdayNoon, causeId: null, ownAct: false })).toThrow('use case')
  expect(hasTag(context.db, interestId, person)).toBe(false)
})
