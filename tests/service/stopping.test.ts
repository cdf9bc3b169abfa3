/** B7: a course is stopped as a whole and goes on, or is deleted; nothing of it leaves meanwhile, nobody loses time, and nobody is lost. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { courseTurning } from '#data/courses'
import { countWaitingToComeIn } from '#data/doors'
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
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openHouse, step, thursdayNoon, visit, type Workshop } from './workshop'

/** Three emails: at once, a day after joining, and a day after that. */
async function course(steps = () => [
  step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
  step('three', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
]) {
  const carrier = listeningCarrier()
  const setting = await furnish(openHouse({ carrier }), steps)
  const sent = (personId: number) => emailsOfPerson(setting.house.db, personId).filter(({ handedOverAt }) => handedOverAt !== null)
    .map(({ stepId, handedOverAt }) => [stepId, (handedOverAt! - thursdayNoon) / HOUR]).reverse()
  return { ...setting, carrier, sent }
}
const standing = (house: Workshop, id: number) => openEnrolmentsOfPerson(house.db, id).map(({ pausedAt, dueAt }) => [pausedAt !== null, dueAt])

describe('B7: a running course', () => {
  it('is stopped as a whole: nothing leaves, nobody gets on, and each wait goes on with what was left of it', async () => {
    const { house, courseId, sent } = await course()
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 6 * HOUR)
    stopCourse(house, courseId)
    stopCourse(house, courseId)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(sent(ada)).toEqual([['one', 0]])
    expect(standing(house, ada)).toEqual([[true, null]])
    expect(todayView(house).wantsALook.map(({ title }) => title).some(title => title.endsWith('is stopped'))).toBe(true)
    expect([railView(house).posts, calendarView(house).days.some(({ people }) => people > 0)]).toEqual([[], false])
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 10 * DAY + 18 * HOUR - 1)
    expect(sent(ada)).toEqual([['one', 0]])
    await moveTo(house, thursdayNoon + 13 * DAY)
    expect(sent(ada)).toEqual([['one', 0], ['two', 258], ['three', 282]])
    expect(eventsOfPerson(house.db, ada).filter(({ kind }) => kind === 'finished-course')).toHaveLength(1)
  })

  it('lets nobody in while it is stopped, and those who came to its door once it goes on, each once', async () => {
    const { house, courseId, sent, tagId } = await course()
    stopCourse(house, courseId)
    const ada = visit(house, 'ada@example.com')
    visit(house, 'ada@example.com')
    expect(() => letIn(house, courseId, ada)).toThrow(NotNow)
    await moveTo(house, thursdayNoon + 2 * DAY)
    expect([sent(ada), openEnrolmentsOfPerson(house.db, ada), countWaitingToComeIn(house.db, courseId)]).toEqual([[], [], 1])
    expect(courseView(house, courseId).waitsAtDoor).toBe(1)
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 4 * DAY)
    expect(sent(ada)).toEqual([['one', 48], ['two', 72], ['three', 96]])
    expect(enrolmentsOfPerson(house.db, ada)).toHaveLength(1)
    // Who is inside already does not wait at its door as well.
    const bea = visit(house, 'bea@example.com')
    stopCourse(house, courseId)
    takeTagByHand(house, bea, tagId)
    giveTagByHand(house, bea, tagId)
    expect(countWaitingToComeIn(house.db, courseId)).toBe(0)
  })

  it('holds back what waits to leave already, and lets it go after', async () => {
    const { house, courseId, sent } = await course()
    house.db.prepare(`UPDATE workspace SET carrier_state = 'stopped'`).run()
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    stopCourse(house, courseId)
    house.db.prepare(`UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(house, thursdayNoon + 3 * HOUR)
    expect(sent(ada)).toEqual([])
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 4 * HOUR)
    expect(sent(ada)).toEqual([['one', 3]])
  })

  it('leaves alone who stands still for another reason: by hand, by a pause of their own', async () => {
    const { house, courseId, sent } = await course()
    const [ada, bea, cleo] = ['ada', 'bea', 'cleo'].map(name => visit(house, `${name}@example.com`)) as [number, number, number]
    await moveTo(house, thursdayNoon + HOUR)
    standStill(house, openEnrolmentsOfPerson(house.db, ada)[0]!.id)
    stopCourse(house, courseId)
    pause(house, emailsOfPerson(house.db, bea)[0]!.id, true)
    await moveTo(house, thursdayNoon + 2 * HOUR)
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 5 * DAY)
    expect([standing(house, ada)[0]![0], standing(house, bea)[0]![0], sent(cleo).length]).toEqual([true, true, 3])
    // The pause of 30 days ends, and what was left of the day goes on from there.
    await moveTo(house, thursdayNoon + 34 * DAY)
    expect(sent(bea).slice(1)).toEqual([['two', 30 * 24 + 1 + 23], ['three', 30 * 24 + 1 + 47]])
    expect(sent(ada)).toHaveLength(1)
  })

  it('is brought to a stand in bits, and whose turn comes first is not sent anything', async () => {
    const { house, courseId, carrier } = await course()
    for (let n = 0; n < 510; n++) visit(house, `p${n}@example.com`)
    await moveTo(house, thursdayNoon + DAY - 1)
    const before = carrier.mails.length
    stopCourse(house, courseId)
    // Not everybody yet; the engine does the rest.
    expect([courseTurning(house.db), house.db.prepare(`SELECT count(*) AS n FROM enrolments WHERE paused_at IS NULL AND status = 'open'`).get()]).toEqual([courseId, { n: 10 }])
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect([carrier.mails.length - before, courseTurning(house.db)]).toEqual([0, null])
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 3 * DAY + 1)
    expect(carrier.mails.length - before).toBe(510)
    await moveTo(house, thursdayNoon + 9 * DAY)
    expect(new Set(carrier.mails.map(({ to, subject }) => `${to.address} ${subject}`)).size).toBe(carrier.mails.length)
    expect(carrier.mails.length).toBe(1530)
  }, 60_000)

  it('can be changed, left and rehearsed while it is stopped', async () => {
    const { house, courseId, sent, listId } = await course()
    const [ada, bea] = [visit(house, 'ada@example.com'), visit(house, 'bea@example.com')]
    await moveTo(house, thursdayNoon + HOUR)
    stopCourse(house, courseId)
    const { name, draft } = courseView(house, courseId)
    saveCourse(house, courseId, name, { ...draft, steps: draft.steps.filter(({ id }) => id !== 'two') })
    await publishChanges(house, courseId)
    leave(house, emailsOfPerson(house.db, bea)[0]!.id, { what: 'list', listId })
    await moveTo(house, thursdayNoon + 4 * DAY)
    expect([sent(ada), openEnrolmentsOfPerson(house.db, bea)]).toEqual([[['one', 0]], []])
    letCourseGoOn(house, courseId)
    await moveTo(house, thursdayNoon + 8 * DAY)
    expect(sent(ada).map(([id]) => id)).toEqual(['one', 'three'])
  })

  it('loses nobody and mails nobody twice, however often it is stopped', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 6 }), async (hours) => {
      const { house, courseId, sent } = await course()
      const ada = visit(house, 'ada@example.com')
      let [at, stood] = [thursdayNoon, 0]
      for (const [n, some] of hours.entries()) {
        await moveTo(house, at += some * HOUR)
        if (openEnrolmentsOfPerson(house.db, ada).length === 0) break
        if (n % 2 === 0) stopCourse(house, courseId)
        else {
          letCourseGoOn(house, courseId)
          stood += some
        }
      }
      const last = hours.length % 2 === 1 && openEnrolmentsOfPerson(house.db, ada).length > 0
      if (last) {
        await moveTo(house, at += HOUR)
        letCourseGoOn(house, courseId)
        stood += 1
      }
      await moveTo(house, at + 20 * DAY)
      expect(sent(ada).map(([id]) => id)).toEqual(['one', 'two', 'three'])
      // In all they waited two days in the course, and not a minute of the time it stood still.
      const finishedAt = enrolmentsOfPerson(house.db, ada)[0]!.endedAt!
      expect((finishedAt - thursdayNoon) / HOUR).toBeGreaterThanOrEqual(48)
      expect((finishedAt - thursdayNoon) / HOUR).toBeLessThanOrEqual(48 + stood)
    }), { numRuns: 25 })
  }, 60_000)
})

describe('B7: a course that is deleted', () => {
  it('says first what would break, and refuses while something asks for it', async () => {
    const { house, courseId, tagId } = await course()
    visit(house, 'ada@example.com')
    saveSegment(house, null, { name: 'Inside it', note: '', condition: { kind: 'course', courseId, is: 'inside', stepId: null } })
    await saveRule(house, null, newRule({ kind: 'finished-course', thingId: courseId }, [{ kind: 'give-tag', tagId }]))
    const view = endingView(house, { kind: 'course', id: courseId })
    expect([view.blocked, view.uses.map(({ kind, needs }) => [kind, needs])]).toEqual([true, [['segment', true], ['rule', false]]])
    expect(() => removeCourse(house, courseId)).toThrow(NotNow)
  })

  it('takes everybody out with a reason, withdraws what waits, lets nobody in, and stays in the histories by its name', async () => {
    const { house, courseId, carrier } = await course()
    const people = Array.from({ length: 260 }, (_, n) => visit(house, `p${n}@example.com`))
    await moveTo(house, thursdayNoon + DAY - 1)
    const before = carrier.mails.length
    removeCourse(house, courseId)
    expect(() => courseView(house, courseId)).toThrow(NotThere)
    expect(courseLines(house)).toEqual([])
    await moveTo(house, thursdayNoon + 5 * DAY)
    expect(carrier.mails.length - before).toBe(0)
    for (const id of [people[0]!, people[259]!]) {
      expect(enrolmentsOfPerson(house.db, id).map(({ status }) => status)).toEqual(['left'])
      expect(eventsOfPerson(house.db, id).filter(({ kind, detail }) => kind === 'left-course' && detail === 'deleted')).toHaveLength(1)
      expect(subscriberView(house, id).courses[0]).toMatchObject({ isThere: false, status: 'left' })
    }
    const late = visit(house, 'late@example.com')
    await moveTo(house, thursdayNoon + 6 * DAY)
    expect([enrolmentsOfPerson(house.db, late), emailsOfPerson(house.db, late)]).toEqual([[], []])
    expect([todayView(house).goingOut, calendarView(house).days.some(({ people: n }) => n > 0)]).toEqual([[], false])
  })

  it('goes also while it is stopped with people at its door, and before it was ever started', async () => {
    const { house, courseId } = await course()
    stopCourse(house, courseId)
    visit(house, 'ada@example.com')
    removeCourse(house, courseId)
    expect(await play(house, thursdayNoon + DAY)).toBe(true)
    expect(countWaitingToComeIn(house.db, courseId)).toBe(0)
    const draft = createCourse(house, 'Never', 'a')
    removeCourse(house, draft)
    expect(() => stopCourse(house, draft)).toThrow(NotThere)
  })
})
