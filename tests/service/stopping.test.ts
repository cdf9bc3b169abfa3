/** B7: a course is stopped as a whole and goes on, or is deleted; nothing of it leaves meanwhile, nobody loses time, and nobody is lost. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { courseStoppingOrResuming } from '#data/courses'
import { countWaitingToComeIn } from '#data/entries'
import { enrolmentsOfPerson, openEnrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { emailsOfPerson } from '#data/outbox'
import { removeCourse, letCourseGoOn, stopCourse } from '#usecases/courses/stop'
import { letIn, standStill } from '#usecases/courses/people'
import { publishChanges } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { pause } from '#usecases/arrive/choices'
import { leave } from '#usecases/arrive/leave'
import { newRule } from '#core/rules/rule'
import { saveRule } from '#usecases/know/rules'
import { saveSegment } from '#usecases/know/segments'
import { NotNow, NotThere } from '#usecases/problem'
import { giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { endingView } from '#usecases/views/ending'
import { courseView, courseLines } from '#usecases/views/course'
import { calendarView } from '#usecases/views/calendar'
import { railView } from '#usecases/views/frame'
import { subscriberView } from '#usecases/views/subscriber'
import { todayView } from '#usecases/views/today'
import { play } from '#usecases/time/play'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

/** Three emails: at once, a day after joining, and a day after that. */
async function course(steps = () => [
  step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
  step('three', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
]) {
  const carrier = listeningCarrier()
  const setting = await furnish(openContext({ carrier }), steps)
  const sent = (personId: number) => emailsOfPerson(setting.context.db, personId).filter(({ handedOverAt }) => handedOverAt !== null)
    .map(({ itemId: stepId, handedOverAt }) => [stepId, (handedOverAt! - thursdayNoon) / HOUR]).reverse()
  return { ...setting, carrier, sent }
}
const standing = (context: Workshop, id: number) =>
  openEnrolmentsOfPerson(context.db, id).map(({ pausedAt, dueAt }) => [pausedAt !== null, dueAt])

describe('B7: a running course', () => {
  it('is stopped as a whole: nothing leaves, nobody gets on, and each wait goes on with what was left of it', async () => {
    const { context, courseId, sent } = await course()
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 6 * HOUR)
    stopCourse(context, courseId)
    stopCourse(context, courseId)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(ada)).toEqual([['one', 0]])
    expect(standing(context, ada)).toEqual([[true, null]])
    expect(todayView(context).needsAttention.map(({ title }) => title).some(title => title.endsWith('is stopped'))).toBe(true)
    expect([railView(context).posts, calendarView(context).days.some(({ people }) => people > 0)]).toEqual([[], false])
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 10 * DAY + 18 * HOUR - 1)
    expect(sent(ada)).toEqual([['one', 0]])
    await moveTo(context, thursdayNoon + 13 * DAY)
    expect(sent(ada)).toEqual([['one', 0], ['two', 258], ['three', 282]])
    expect(eventsOfPerson(context.db, ada).filter(({ kind }) => kind === 'finished-course')).toHaveLength(1)
  })

  it('lets nobody in while it is stopped, and those who came to its door once it goes on, each once', async () => {
    const { context, courseId, sent, tagId } = await course()
    stopCourse(context, courseId)
    const ada = visit(context, 'ada@example.com')
    visit(context, 'ada@example.com')
    expect(() => letIn(context, courseId, ada)).toThrow(NotNow)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect([sent(ada), openEnrolmentsOfPerson(context.db, ada), countWaitingToComeIn(context.db, courseId)]).toEqual([[], [], 1])
    expect(courseView(context, courseId).waitingToEnter).toBe(1)
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect(sent(ada)).toEqual([['one', 48], ['two', 72], ['three', 96]])
    expect(enrolmentsOfPerson(context.db, ada)).toHaveLength(1)
    // Who is inside already does not wait at its door as well.
    const bea = visit(context, 'bea@example.com')
    stopCourse(context, courseId)
    takeTagByHand(context, bea, tagId)
    giveTagByHand(context, bea, tagId)
    expect(countWaitingToComeIn(context.db, courseId)).toBe(0)
  })

  it('holds back what waits to leave already, and lets it go after', async () => {
    const { context, courseId, sent } = await course()
    context.db.prepare(`UPDATE workspace SET carrier_state = 'stopped'`).run()
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    stopCourse(context, courseId)
    context.db.prepare(`UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(context, thursdayNoon + 3 * HOUR)
    expect(sent(ada)).toEqual([])
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 4 * HOUR)
    expect(sent(ada)).toEqual([['one', 3]])
  })

  it('leaves alone who stands still for another reason: by hand, by a pause of their own', async () => {
    const { context, courseId, sent } = await course()
    const [ada, bea, cleo] = ['ada', 'bea', 'cleo'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    await moveTo(context, thursdayNoon + HOUR)
    standStill(context, openEnrolmentsOfPerson(context.db, ada)[0]!.id)
    stopCourse(context, courseId)
    pause(context, emailsOfPerson(context.db, bea)[0]!.id, true)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect([standing(context, ada)[0]![0], standing(context, bea)[0]![0], sent(cleo).length]).toEqual([true, true, 3])
    // The pause of 30 days ends, and what was left of the day goes on from there.
    await moveTo(context, thursdayNoon + 34 * DAY)
    expect(sent(bea).slice(1)).toEqual([['two', 30 * 24 + 1 + 23], ['three', 30 * 24 + 1 + 47]])
    expect(sent(ada)).toHaveLength(1)
  })

  it('is brought to a stand in bits, and whose turn comes first is not sent anything', async () => {
    const { context, courseId, carrier } = await course()
    for (let n = 0; n < 510; n++) visit(context, `p${n}@example.com`)
    await moveTo(context, thursdayNoon + DAY - 1)
    const before = carrier.mails.length
    stopCourse(context, courseId)
    // Not everybody yet; the engine does the rest.
    expect([
      courseStoppingOrResuming(context.db),
      context.db.prepare(`SELECT count(*) AS n FROM enrolments WHERE paused_at IS NULL AND status = 'open'`).get(),
    ]).toEqual([courseId, { n: 10 }])
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect([carrier.mails.length - before, courseStoppingOrResuming(context.db)]).toEqual([0, null])
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 3 * DAY + 1)
    expect(carrier.mails.length - before).toBe(510)
    await moveTo(context, thursdayNoon + 9 * DAY)
    expect(new Set(carrier.mails.map(({ to, subject }) => `${to.address} ${subject}`)).size).toBe(carrier.mails.length)
    expect(carrier.mails.length).toBe(1530)
  })

  it('can be changed, left and rehearsed while it is stopped', async () => {
    const { context, courseId, sent, listId } = await course()
    const [ada, bea] = [visit(context, 'ada@example.com'), visit(context, 'bea@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    stopCourse(context, courseId)
    const { name, draft } = courseView(context, courseId)
    saveCourse(context, courseId, name, { ...draft, steps: draft.steps.filter(({ id }) => id !== 'two') })
    await publishChanges(context, courseId)
    leave(context, emailsOfPerson(context.db, bea)[0]!.id, { what: 'list', listId })
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect([sent(ada), openEnrolmentsOfPerson(context.db, bea)]).toEqual([[['one', 0]], []])
    letCourseGoOn(context, courseId)
    await moveTo(context, thursdayNoon + 8 * DAY)
    expect(sent(ada).map(([id]) => id)).toEqual(['one', 'three'])
  })

  it('loses nobody and mails nobody twice, however often it is stopped', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 6 }), async (hours) => {
      const { context, courseId, sent } = await course()
      const ada = visit(context, 'ada@example.com')
      let [at, stood] = [thursdayNoon, 0]
      for (const [n, some] of hours.entries()) {
        await moveTo(context, at += some * HOUR)
        if (openEnrolmentsOfPerson(context.db, ada).length === 0) break
        if (n % 2 === 0) stopCourse(context, courseId)
        else {
          letCourseGoOn(context, courseId)
          stood += some
        }
      }
      const last = hours.length % 2 === 1 && openEnrolmentsOfPerson(context.db, ada).length > 0
      if (last) {
        await moveTo(context, at += HOUR)
        letCourseGoOn(context, courseId)
        stood += 1
      }
      await moveTo(context, at + 20 * DAY)
      expect(sent(ada).map(([id]) => id)).toEqual(['one', 'two', 'three'])
      // In all they waited two days in the course, and not a minute of the time it stood still.
      const finishedAt = enrolmentsOfPerson(context.db, ada)[0]!.endedAt!
      expect((finishedAt - thursdayNoon) / HOUR).toBeGreaterThanOrEqual(48)
      expect((finishedAt - thursdayNoon) / HOUR).toBeLessThanOrEqual(48 + stood)
    }), { numRuns: 25 })
  })
})

describe('B7: a course that is deleted', () => {
  it('says first what would break, and refuses while something asks for it', async () => {
    const { context, courseId, tagId } = await course()
    visit(context, 'ada@example.com')
    saveSegment(context, null, { name: 'Inside it', note: '', condition: { kind: 'course', courseId, is: 'inside', stepId: null } })
    await saveRule(context, null, newRule({ kind: 'finished-course', thingId: courseId }, [{ kind: 'give-tag', tagId }]))
    const view = endingView(context, { kind: 'course', id: courseId })
    expect([view.blocked, view.uses.map(({ kind, needs }) => [kind, needs])]).toEqual([true, [['segment', true], ['rule', false]]])
    expect(() => removeCourse(context, courseId)).toThrow(NotNow)
  })

  it('takes everybody out with a reason, withdraws what waits, lets nobody in, and stays in the histories by its name', async () => {
    const { context, courseId, carrier } = await course()
    const people = Array.from({ length: 260 }, (_, n) => visit(context, `p${n}@example.com`))
    await moveTo(context, thursdayNoon + DAY - 1)
    const before = carrier.mails.length
    removeCourse(context, courseId)
    expect(() => courseView(context, courseId)).toThrow(NotThere)
    expect(courseLines(context)).toEqual([])
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(carrier.mails.length - before).toBe(0)
    for (const id of [people[0]!, people[259]!]) {
      expect(enrolmentsOfPerson(context.db, id).map(({ status }) => status)).toEqual(['left'])
      expect(eventsOfPerson(context.db, id).filter(({ kind, detail }) => kind === 'left-course' && detail === 'deleted')).toHaveLength(1)
      expect(subscriberView(context, id).courses[0]).toMatchObject({ isThere: false, status: 'left' })
    }
    const late = visit(context, 'late@example.com')
    await moveTo(context, thursdayNoon + 6 * DAY)
    expect([enrolmentsOfPerson(context.db, late), emailsOfPerson(context.db, late)]).toEqual([[], []])
    expect([todayView(context).goingOut, calendarView(context).days.some(({ people: n }) => n > 0)]).toEqual([[], false])
  })

  it('goes also while it is stopped with people at its door, and before it was ever started', async () => {
    const { context, courseId } = await course()
    stopCourse(context, courseId)
    visit(context, 'ada@example.com')
    removeCourse(context, courseId)
    expect(await play(context, thursdayNoon + DAY)).toBe(true)
    expect(countWaitingToComeIn(context.db, courseId)).toBe(0)
    const draft = createCourse(context, 'Never', 'a')
    removeCourse(context, draft)
    expect(() => stopCourse(context, draft)).toThrow(NotThere)
  })
})
