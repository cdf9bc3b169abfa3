/**
 * Journeys that depend on each other, in an engine that is killed again and again: the same to the last event as in one that was left in
 * peace.
 */
import { copyFileSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { diceOf } from '#core/dice'
import { newRule } from '#core/rules/rule'
import { askPracticeClock } from '#data/workspace'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { doToMany } from '#usecases/know/doToMany'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { sized } from '../soak'
import { buildChild, runAndKill, sayKills } from './killing'
import { temporaryFolder } from '../temporary'
import { DAY, furnish, openContext, step, tag, thursdayNoon } from './workshop'

/** Most of them are in two courses. */
const JOURNEYS = sized(600, 5400)
const EVERYBODY = NOT_NARROWED
let child: string
beforeAll(async () => {
  child = await buildChild()
})

const many = (db: ReturnType<typeof openContext>['db'], sql: string) => db.prepare(sql).all() as Record<string, number>[]

describe('an engine that is killed again and again', () => {
  it('leads a thousand enrolments (10,000 when soaking) through forks, holds, rules, jumps and each other as if it had never died', {
    timeout: sized(300_000, 1_500_000),
  }, async () => {
    const folder = temporaryFolder()
    const undisturbed = temporaryFolder()
    const { context, listId } = await furnish(openContext({ file: join(folder, 'practice.db') }), () => [step('one', { kind: 'at-once' })])
    const [first, second, mark, back] = ['first', 'second', 'mark', 'back'].map(name => saveTag(context, null, tag(name)))
    const few = { kind: 'sample' as const, hundredths: 600, salt: 7 }
    const quick = (id: string) => ({ id, when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const })
    const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })
    const ways = createCourse(context, 'Ways', 'a')
    saveCourse(context, ways, 'Ways', { listId, wayInTagIds: [first!], again: 'once', onFinish: [{ kind: 'score', points: 7 }], steps: [
      {
        ...quick('f'), kind: 'fork', ways: [{ id: 'few', who: { kind: 'all', of: [few] }, steps: [step('letter', hours(1))] }],
        otherwise: [{ ...quick('d'), kind: 'do', then: [{ kind: 'give-tag', tagId: second! }] }],
      },
      {
        ...quick('h'), kind: 'hold', until: { kind: 'event', when: { kind: 'got-tag', thingId: mark! } },
        atMost: { count: 6, unit: 'hours' }, did: [{ ...quick('yes'), kind: 'do', then: [{ kind: 'score', points: 1 }] }],
        didNot: [{ ...quick('no'), kind: 'do', then: [{ kind: 'score', points: 2 }] }],
      },
      { ...quick('g'), kind: 'fork', ways: [{
        id: 'was-back', who: { kind: 'all', of: [{ kind: 'tag', tagId: back!, since: null }] },
        steps: [{ ...quick('e'), kind: 'end', when: hours(2) }],
      }], otherwise: [
        { ...quick('b'), kind: 'do', then: [{ kind: 'give-tag', tagId: back! }] },
        { ...quick('j'), kind: 'jump', when: hours(24), toId: 'f' },
      ] },
    ] })
    // Another course, which the first one's tag starts, gives what its hold waits for; a rule stands between the two.
    const helps = createCourse(context, 'Helps', 'x')
    saveCourse(context, helps, 'Helps', {
      listId, wayInTagIds: [second!], again: 'once',
      steps: [{ ...quick('x'), kind: 'do', when: hours(2), then: [{ kind: 'give-tag', tagId: mark! }] }, step('never', hours(2000))],
    })
    await startCourse(context, ways)
    await startCourse(context, helps)
    await saveRule(context, null, newRule({ kind: 'got-tag', thingId: back! }, [{ kind: 'score', points: 3 }]))
    // They stand there in one go: how they came is not what this is about.
    context.db.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${JOURNEYS})
      INSERT INTO people (address, address_key, first_name, search_text, status, source, created_at) SELECT 'j' || i || '@example.com',
        'j' || i || '@example.com', '', 'j' || i || '@example.com', 'active', 'import', ${thursdayNoon} FROM n;
      INSERT INTO list_members (list_id, person_id, joined_at, event_id) SELECT ${listId}, id, ${thursdayNoon}, 1 FROM people;
      INSERT INTO tag_holdings (tag_id, person_id, since_at, event_id) SELECT ${first}, id, ${thursdayNoon}, 1 FROM people`)
    doToMany(context, { kind: 'all', search: '', narrowing: EVERYBODY }, { kind: 'enrol', courseId: ways }, JOURNEYS)
    askPracticeClock(context.db, thursdayNoon + 4 * DAY)
    context.db.pragma('wal_checkpoint(TRUNCATE)')
    copyFileSync(join(folder, 'practice.db'), join(undisturbed, 'practice.db'))

    const dice = diceOf(10_000)
    const { workedMs } = await runAndKill({
      file: child, perPoint: 0, atRandom: 0, dice, env: { MODE: 'practice', PORCH_DATA: undisturbed },
    })
    // Together these moments come to half of the work at most, however fast the machine is.
    const atRandom = sized(8, 80)
    const { kills } = await runAndKill({
      file: child, perPoint: 0, atRandom, withinMs: workedMs / 2 / atRandom, dice, env: { MODE: 'practice', PORCH_DATA: folder },
    })
    const calm = openContext({ file: join(undisturbed, 'practice.db') })
    const told = (of: typeof context) => ({
      events: many(of.db, `
        SELECT kind, at, course_id, step_id, tag_id, detail, count(*) AS n, sum(person_id) AS people FROM events
        GROUP BY 1, 2, 3, 4, 5, 6 ORDER BY 1, 2, 3, 4, 5, 6`),
      journeys: many(of.db, `
        SELECT course_id, status, step_id, due_at, previous_at, done_steps, count(*) AS n, sum(person_id) AS people
        FROM enrolments GROUP BY 1, 2, 3, 4, 5, 6`),
      emails: many(of.db, 'SELECT item_id, status, handed_over_at, count(*) AS n, sum(person_id) AS people FROM outbox GROUP BY 1, 2, 3'),
      points: many(of.db, 'SELECT points, count(*) AS n, sum(person_id) AS people FROM given_points GROUP BY 1 ORDER BY 1'),
    })
    const [was, should] = [told(context), told(calm)]
    console.info(
      `${Math.round(workedMs)} ms undisturbed; ${was.journeys.reduce((sum, row) => sum + row.n!, 0)} enrolments, ${was.events.reduce((sum, row) => sum + row.n!, 0)} events; killed at ${sayKills(kills)}`,
    )
    expect(kills['a random moment']).toBe(atRandom)
    expect(was).toEqual(should)
    expect(was.journeys.reduce((sum, row) => sum + row.n!, 0)).toBeGreaterThan(sized(1_000, 10_000))
    // All came through: nobody stands where they should not.
    expect(was.journeys.filter(row => row.course_id === ways).reduce((sum, row) => sum + row.n!, 0)).toBe(JOURNEYS)
    expect(many(context.db, `SELECT count(*) AS n FROM enrolments WHERE course_id = ${ways} AND status <> 'finished'`)[0]!.n).toBe(0)
    expect(many(context.db, 'SELECT count(*) AS n FROM (SELECT 1 FROM mailbox GROUP BY message_ref HAVING count(*) > 1)')[0]!.n).toBe(0)
    for (const of of [context, calm]) of.db.close()
  })
})
