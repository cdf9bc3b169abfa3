import { copyFileSync, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { beforeAll, describe, expect, it } from 'vitest'
import { askPracticeClock } from '#data/workspace'
import { newRule } from '#core/rules/rule'
import { countWhere } from '#data/people'
import { leave } from '#usecases/arrive/leave'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { doToMany } from '#usecases/know/doToMany'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { diceOf } from '#core/dice'
import { buildChild, POINTS, runAndKill, sayKills } from './killing'
import { DAY, email, furnish, openHouse, step, tag, temporaryFolder, thursdayNoon, visit } from './workshop'

const PEOPLE = 1500
const JOURNEYS = 10_000
const NOBODY_LEFT_OUT = { where: null, status: null, tagId: null, listId: null, segmentId: null, pageId: null, standing: null, behind: null, trouble: null }
let child: string
beforeAll(async () => {
  child = await buildChild()
})

const many = (db: ReturnType<typeof openHouse>['db'], sql: string) => db.prepare(sql).all() as Record<string, number>[]

describe('an engine that is killed again and again', () => {
  it('delivers each practice email exactly once, and nothing to who has left', { timeout: 300_000 }, async () => {
    const folder = temporaryFolder()
    const { house } = await furnish(openHouse({ file: join(folder, 'practice.db') }))
    const people = Array.from({ length: PEOPLE }, (_, n) => visit(house, `person${n}@example.com`, `P${n}`))
    askPracticeClock(house.db, thursdayNoon + 10 * DAY)

    // While the engine runs and dies, some leave: what had begun to leave by then is all they may ever get.
    const dice = diceOf(20261126)
    const gone = new Map<number, Set<number>>()
    const someoneLeaves = () => {
      const personId = people[Math.floor(dice() * people.length)]!
      const rows = many(house.db, `SELECT id, status IN ('handing over', 'handed over') AS begun FROM outbox WHERE person_id = ${personId}`)
      if (gone.size >= 150 || gone.has(personId) || rows.length === 0) return
      const begun = house.db.transaction(() => {
        const now = many(house.db, `SELECT id FROM outbox WHERE person_id = ${personId} AND status IN ('handing over', 'handed over')`)
        leave(house, rows[0]!.id!, { what: 'everything' })
        return now.map(row => row.id!)
      }).immediate()
      gone.set(personId, new Set(begun))
    }
    const kills = await runAndKill({
      file: child, perPoint: 10, atRandom: 20, dice, meanwhile: someoneLeaves,
      env: { MODE: 'practice', PORCH_DATA: folder },
    })

    const arrived = many(house.db, 'SELECT o.person_id AS person, o.id, count(*) AS n FROM mailbox b JOIN outbox o ON o.message_ref = b.message_ref GROUP BY o.id')
    const twice = many(house.db, 'SELECT count(*) AS n FROM (SELECT 1 FROM outbox WHERE handed_over_at IS NOT NULL GROUP BY person_id, step_id HAVING count(*) > 1)')[0]!.n
    const offered = many(house.db, 'SELECT sum(deliveries) AS n, count(*) AS rows FROM mailbox')[0]!
    console.info(`practice, ${PEOPLE} people, ${arrived.length} emails; killed at ${sayKills(kills)}; ${gone.size} left meanwhile; ${offered.n! - offered.rows!} emails were offered to the mailbox a second time and not taken`)

    for (const point of [...POINTS, 'a random moment']) expect(kills[point], point).toBeGreaterThan(0)
    expect(gone.size).toBeGreaterThan(20)
    expect(twice).toBe(0)
    expect(arrived.every(row => row.n === 1)).toBe(true)
    const perPerson = new Map<number, number[]>()
    for (const row of arrived) perPerson.set(row.person!, [...perPerson.get(row.person!) ?? [], row.id!])
    for (const personId of people) {
      const got = perPerson.get(personId) ?? []
      const begun = gone.get(personId)
      if (!begun) expect(got, `person ${personId}`).toHaveLength(3)
      else for (const id of got) expect(begun.has(id), `person ${personId} got email ${id} after leaving`).toBe(true)
    }
    expect(many(house.db, `SELECT count(*) AS n FROM events WHERE kind = 'may-repeat'`)[0]!.n).toBe(0)
    house.db.close()
  })

  it('leads 10,000 journeys through forks, holds, rules, jumps and each other as if it had never died', { timeout: 300_000 }, async () => {
    const folder = temporaryFolder()
    const undisturbed = temporaryFolder()
    const { house, tagId, listId } = await furnish(openHouse({ file: join(folder, 'practice.db') }), () => [step('one', { kind: 'at-once' })])
    const [first, second, mark, back] = ['first', 'second', 'mark', 'back'].map(name => saveTag(house, null, tag(name)))
    const few = { kind: 'sample' as const, hundredths: 600, salt: 7 }
    const quick = (id: string) => ({ id, when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const })
    const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })
    const ways = createCourse(house, 'Ways', 'a')
    saveCourse(house, ways, 'Ways', { listId, wayInTagIds: [first!], again: 'once', onFinish: [{ kind: 'score', points: 7 }], steps: [
      { ...quick('f'), kind: 'fork', ways: [{ id: 'few', who: { kind: 'all', of: [few] }, steps: [step('letter', hours(1))] }], otherwise: [{ ...quick('d'), kind: 'do', then: [{ kind: 'give-tag', tagId: second! }] }] },
      { ...quick('h'), kind: 'hold', until: { kind: 'event', when: { kind: 'got-tag', thingId: mark! } }, atMost: { count: 6, unit: 'hours' }, did: [{ ...quick('yes'), kind: 'do', then: [{ kind: 'score', points: 1 }] }], didNot: [{ ...quick('no'), kind: 'do', then: [{ kind: 'score', points: 2 }] }] },
      { ...quick('g'), kind: 'fork', ways: [{ id: 'was-back', who: { kind: 'all', of: [{ kind: 'tag', tagId: back!, since: null }] }, steps: [{ ...quick('e'), kind: 'end', when: hours(2) }] }], otherwise: [{ ...quick('b'), kind: 'do', then: [{ kind: 'give-tag', tagId: back! }] }, { ...quick('j'), kind: 'jump', when: hours(24), toId: 'f' }] },
    ] })
    // Another course, which the first one's tag starts, gives what its hold waits for; a rule stands between the two.
    const helps = createCourse(house, 'Helps', 'x')
    saveCourse(house, helps, 'Helps', { listId, wayInTagIds: [second!], again: 'once', steps: [{ ...quick('x'), kind: 'do', when: hours(2), then: [{ kind: 'give-tag', tagId: mark! }] }, step('never', hours(2000))] })
    await startCourse(house, ways)
    await startCourse(house, helps)
    await saveRule(house, null, newRule({ kind: 'got-tag', thingId: back! }, [{ kind: 'score', points: 3 }]))
    // They stand there in one go: how they came is not what this is about.
    house.db.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${JOURNEYS})
      INSERT INTO people (address, address_key, first_name, search_text, status, source, created_at) SELECT 'j' || i || '@example.com', 'j' || i || '@example.com', '', 'j' || i || '@example.com', 'active', 'import', ${thursdayNoon} FROM n;
      INSERT INTO list_members (list_id, person_id, joined_at, event_id) SELECT ${listId}, id, ${thursdayNoon}, 1 FROM people;
      INSERT INTO tag_holdings (tag_id, person_id, since_at, event_id) SELECT ${first}, id, ${thursdayNoon}, 1 FROM people`)
    const id = createCourse(house, 'Door', 'y')
    expect([id, tagId, countWhere(house.db, { search: '', where: { sql: '1', values: [] } })]).toEqual([4, 1, JOURNEYS])
    doToMany(house, { kind: 'all', search: '', narrowing: NOBODY_LEFT_OUT }, { kind: 'enrol', courseId: ways }, JOURNEYS)
    askPracticeClock(house.db, thursdayNoon + 4 * DAY)
    house.db.pragma('wal_checkpoint(TRUNCATE)')
    copyFileSync(join(folder, 'practice.db'), join(undisturbed, 'practice.db'))

    const dice = diceOf(10_000)
    const kills = await runAndKill({ file: child, perPoint: 3, atRandom: 15, dice, env: { MODE: 'practice', PORCH_DATA: folder } })
    await runAndKill({ file: child, perPoint: 0, atRandom: 0, dice, env: { MODE: 'practice', PORCH_DATA: undisturbed } })
    const calm = openHouse({ file: join(undisturbed, 'practice.db') })
    const told = (of: typeof house) => ({
      events: many(of.db, `SELECT kind, at, course_id, step_id, tag_id, detail, count(*) AS n, sum(person_id) AS people FROM events GROUP BY 1, 2, 3, 4, 5, 6 ORDER BY 1, 2, 3, 4, 5, 6`),
      journeys: many(of.db, 'SELECT course_id, status, step_id, due_at, previous_at, done_steps, count(*) AS n, sum(person_id) AS people FROM enrolments GROUP BY 1, 2, 3, 4, 5, 6'),
      emails: many(of.db, 'SELECT step_id, status, handed_over_at, count(*) AS n, sum(person_id) AS people FROM outbox GROUP BY 1, 2, 3'),
      points: many(of.db, 'SELECT points, count(*) AS n, sum(person_id) AS people FROM given_points GROUP BY 1 ORDER BY 1'),
    })
    const [was, should] = [told(house), told(calm)]
    console.info(`${JOURNEYS} journeys, ${was.events.reduce((sum, row) => sum + row.n!, 0)} events; killed at ${sayKills(kills)}`)
    expect(Object.values(kills).reduce((sum, n) => sum + n, 0)).toBeGreaterThan(15)
    expect(was).toEqual(should)
    // All came through: nobody stands where they should not.
    expect(was.journeys.filter(row => row.course_id === ways).reduce((sum, row) => sum + row.n!, 0)).toBe(JOURNEYS)
    expect(many(house.db, `SELECT count(*) AS n FROM enrolments WHERE course_id = ${ways} AND status <> 'finished'`)[0]!.n).toBe(0)
    expect(many(house.db, 'SELECT count(*) AS n FROM (SELECT 1 FROM mailbox GROUP BY message_ref HAVING count(*) > 1)')[0]!.n).toBe(0)
    for (const of of [house, calm]) of.db.close()
  })

  it('loses nothing over SMTP, and repeats only what was in flight', { timeout: 300_000 }, async () => {
    const folder = temporaryFolder()
    mkdirSync(folder, { recursive: true })
    const { house } = await furnish(openHouse({ file: join(folder, 'live.db'), mode: 'live', clock: { at: Date.now() } }), () => [step('one', { kind: 'at-once' }, email('one'))])
    for (let n = 0; n < PEOPLE; n++) visit(house, `person${n}@example.com`)

    const arrivals = new Map<string, number>()
    const server = new SMTPServer({
      authOptional: true, disabledCommands: ['STARTTLS'],
      onData(stream, _session, done) {
        const chunks: Buffer[] = []
        stream.on('data', chunk => chunks.push(chunk))
        stream.on('end', () => {
          const id = /^Message-ID: (<.+>)/mi.exec(Buffer.concat(chunks).toString())![1]!
          arrivals.set(id, (arrivals.get(id) ?? 0) + 1)
          done()
        })
      },
    })
    server.on('error', () => undefined) // connections of killed engines break off
    await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
    const { port } = server.server.address() as AddressInfo
    const kills = await runAndKill({
      file: child, perPoint: 4, atRandom: 10, dice: diceOf(7),
      env: { MODE: 'live', PORCH_DATA: folder, PORCH_SMTP_URL: `smtp://127.0.0.1:${port}` },
    })
    await new Promise<void>(resolve => server.close(() => resolve()))

    const repeats = [...arrivals.values()].reduce((sum, n) => sum + n - 1, 0)
    const counted = many(house.db, 'SELECT sum(repeats) AS n FROM outbox')[0]!.n!
    console.info(`SMTP, ${PEOPLE} emails; killed at ${sayKills(kills)}; ${repeats} arrived twice, ${counted} were counted as possible repeats`)
    const killed = Object.values(kills).reduce((sum, n) => sum + n, 0)
    expect(killed).toBeGreaterThan(20)
    expect(arrivals.size).toBe(PEOPLE)
    expect(Math.max(...arrivals.values())).toBeGreaterThan(1) // else the test has not reached what it is about
    expect(repeats).toBeLessThanOrEqual(counted)
    expect(counted).toBeLessThanOrEqual(killed * 5) // the number of connections
    expect(many(house.db, `SELECT count(*) AS n FROM outbox WHERE status != 'handed over'`)[0]!.n).toBe(0)
    house.db.close()
  })
})
