/** Nothing goes round without end: whatever enrols, jumps, gives and wakes is bounded at one moment, cut off, written down and shown. */
import { describe, expect, it } from 'vitest'
import { programOf, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import { readyReaders } from '#core/sequence/rehearsal'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import type { Timing } from '#core/time/when'
import { newRule } from '#core/rules/rule'
import { insertVersion, findCourse, setRunning } from '#data/courses'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { outlookOf, publishChanges, startCourse } from '#usecases/courses/publish'
import { letIn } from '#usecases/courses/people'
import { rehearse } from '#usecases/practice/rehearse'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { InputProblem } from '#usecases/problem'
import { play } from '#usecases/time/play'
import { todayView } from '#usecases/views/today'
import { temporaryFolder } from '../temporary'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const sandbox = rehearsalSandbox({
  port: 3000, data: temporaryFolder(), password: null, baseUrl: 'http://localhost:3000', smtpUrl: null, host: '127.0.0.1', proxies: 0,
}, { session: '', signing: Buffer.from('a signing key for tests only, 32') })
const ATONCE: Timing = { kind: 'at-once' }
const base = (id: string, when: Timing = ATONCE) => ({ id, when, ifPast: 'at-once' as const, zone: 'workspace' as const })
const count = (context: Workshop, sql: string) => (context.db.prepare(`SELECT count(*) AS n FROM ${sql}`).get() as { n: number }).n

/** Runs a draft as it is, past the check that refuses circles: as one that was published before there was such a check. */
async function runEvenSo(context: Workshop, courseId: number): Promise<void> {
  const { draft, name } = findCourse(context.db, courseId)!
  const calm: CourseDraft = { ...draft, onFinish: [], steps: [step(draft.steps[0]!.id, ATONCE)] }
  saveCourse(context, courseId, name, calm)
  await startCourse(context, courseId)
  const made = programOf(calm, () => context.db.prepare('SELECT max(id) FROM messages').pluck().get() as number)
  const program = programOf(draft, () => (made.steps[0] as { messageId: number }).messageId)
  setRunning(context.db, courseId, insertVersion(context.db, courseId, program, draft, context.clock.now()), draft, context.clock.now())
  saveCourse(context, courseId, name, draft)
}

async function circles(context: Workshop, steps: (id: string) => DraftStep[] = id => [step(id, ATONCE)]) {
  const { listId } = await furnish(context)
  const [a, b] = ['A', 'B'].map(name => createCourse(context, name, name.toLowerCase())) as [number, number]
  for (const [id, other, name] of [[a, b, 'A'], [b, a, 'B']] as const) saveCourse(context, id, name, {
    listId, wayInTagIds: [], again: 'always', onFinish: [{ kind: 'enrol', courseId: other }], steps: steps(`${name.toLowerCase()}1`),
  })
  return { a, b, listId }
}

describe('A1: a course whose end leads into itself by another', () => {
  it.each([
    'practice', 'live',
  ] as const)('sends one person twenty-odd emails at the most in %s, then stops; it is written down, and Today says so', async (mode) => {
    const clock = { at: thursdayNoon }
    const context = openContext(mode === 'live' ? { mode, clock, carrier: listeningCarrier() } : {})
    const { a, b } = await circles(context)
    await runEvenSo(context, a)
    await runEvenSo(context, b)
    const personId = visit(context, 'a@example.com')
    letIn(context, a, personId)
    if (mode === 'practice') await moveTo(context, thursdayNoon + HOUR)
    else {
      for (let n = 0; n < 50; n++) {
        clock.at += 7
        await play(context, clock.at)
      }
    }
    const sent = count(context, `outbox WHERE kind = 'course' AND owner_id IN (${a}, ${b})`)
    expect(sent).toBeGreaterThan(5)
    expect(sent).toBeLessThanOrEqual(21)
    expect(count(context, `events WHERE kind = 'cascade-cut'`)).toBe(1)
    expect(todayView(context).needsAttention.map(({ title }) => title)).toContainEqual(
      expect.stringMatching(/^An endless loop was stopped/),
    )
    // What else there is goes on.
    expect(count(context, `outbox WHERE owner_id NOT IN (${a}, ${b}) AND status = 'handed over'`)).toBeGreaterThan(0)
  })

  it('that branches is bounded in number, too', async () => {
    const context = openContext()
    const { a, b } = await circles(context, id => [{ ...base(`${id}d`), kind: 'do', then: [] }, step(id, ATONCE)])
    for (const id of [a, b]) {
      const course = findCourse(context.db, id)!
      saveCourse(context, id, course.name, { ...course.draft, onFinish: [{ kind: 'enrol', courseId: a }, { kind: 'enrol', courseId: b }] })
      await runEvenSo(context, id)
    }
    letIn(context, a, visit(context, 'a@example.com'))
    await moveTo(context, thursdayNoon + HOUR)
    expect(count(context, `events WHERE kind IN ('enrolled', 'did-step')`)).toBeLessThan(250)
    expect(count(context, `events WHERE kind = 'cascade-cut'`)).toBe(1)
  })

  it('begins anew once time has passed: a course that leads into itself after a day goes on day by day', async () => {
    const context = openContext()
    const { a, b } = await circles(context, id => [step(id, { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' })])
    await startCourse(context, a)
    await startCourse(context, b)
    letIn(context, a, visit(context, 'a@example.com'))
    await moveTo(context, thursdayNoon + 40 * DAY + HOUR)
    expect(count(context, `outbox WHERE owner_id IN (${a}, ${b})`)).toBe(40)
    expect(count(context, `events WHERE kind = 'cascade-cut'`)).toBe(0)
  })

  it('is not published, and its path is told; a rule that closes such a circle warns', async () => {
    const context = openContext()
    const { a, b, listId } = await circles(context)
    await startCourse(context, a)
    await expect(startCourse(context, b)).rejects.toThrow(InputProblem)
    expect(outlookOf(context, findCourse(context.db, b)!).missing.map(({ problem }) => problem)).toEqual([
      expect.stringMatching(/^People would join again and again without any time passing: .*B.*A.*\. Add a hold/),
    ])
    // With a wait on the way it is.
    saveCourse(context, b, 'B', {
      listId, wayInTagIds: [], again: 'always', onFinish: [{ kind: 'enrol', courseId: a }],
      steps: [step('b1', { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' })],
    })
    await startCourse(context, b)
    const again = saveTag(context, null, tag('again'))
    const { draft } = findCourse(context.db, a)!
    saveCourse(context, a, 'A', { ...draft, onFinish: [{ kind: 'give-tag', tagId: again }] })
    await publishChanges(context, a)
    expect(await saveRule(context, null, newRule({ kind: 'got-tag', thingId: again }, [{ kind: 'enrol', courseId: a }]))).toMatchObject({
      saved: false,
    })
  })

  it('and its rehearsal comes to an end', async () => {
    const context = openContext()
    const { a, b } = await circles(context)
    await runEvenSo(context, a)
    await runEvenSo(context, b)
    const [reader] = readyReaders({ date: '2026-12-01', time: '10:00' }, null, null)
    const { stories: [story] } = await rehearse(context, { courseId: a, readers: [reader!] }, sandbox)
    expect(story!.lines.filter(({ kind }) => kind === 'sent').length).toBeLessThanOrEqual(21)
  })
})

describe('A1: a jump back', () => {
  it.each<[string, Timing]>([
    ['a time from joining', { kind: 'elapsed', count: 1, unit: 'hours', from: 'joining' }],
    ['a day counted from joining', { kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' }],
    ['a date', { kind: 'date', date: '2026-12-01', time: '08:00' }],
    ['the very day', { kind: 'calendar-day', day: 0, time: '23:59', from: 'previous' }],
  ])('to something timed by %s is refused: it passes no time', async (_, when) => {
    const context = openContext()
    const { listId } = await furnish(context)
    const id = createCourse(context, 'Round', 'one')
    const draft: CourseDraft = { listId, wayInTagIds: [], again: 'once', steps: [
      step('one', ATONCE), { ...base('d', when), kind: 'do', then: [{ kind: 'score', points: 1 }] },
      { ...base('j'), kind: 'jump', toId: 'd' },
    ] }
    saveCourse(context, id, 'Round', draft)
    await expect(startCourse(context, id)).rejects.toThrow(InputProblem)
    saveCourse(context, id, 'Round', {
      ...draft,
      steps: draft.steps.map(one => one.id === 'j' ? { ...one, when: { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' } } : one),
    })
    await startCourse(context, id)
  })
})
