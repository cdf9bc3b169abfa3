import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { beforeAll, describe, expect, it } from 'vitest'
import { immediate } from '#data/connection'
import { askPracticeClock } from '#data/workspace'
import { leave } from '#usecases/arrive/leave'
import { diceOf } from '#core/dice'
import { sized } from '../soak'
import { buildChild, POINTS, runAndKill, sayKills } from './killing'
import { temporaryFolder } from '../temporary'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import { broadcastView } from '#usecases/views/broadcasts'
import { writeBroadcast } from './broadcasting'
import { DAY, email, furnish, openContext, step, thursdayNoon, visit } from './workshop'

const PEOPLE = sized(350, 700)
let child: string
beforeAll(async () => {
  child = await buildChild()
})

const many = (db: ReturnType<typeof openContext>['db'], sql: string) => db.prepare(sql).all() as Record<string, number>[]

/** A mail server that counts how often each email arrived, by its Message-ID. */
async function receiving() {
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
  return { arrivals, port, close: () => new Promise<void>(resolve => server.close(() => resolve())) }
}

describe('an engine that is killed again and again', () => {
  it('delivers each practice email exactly once, and nothing to who has left', { timeout: sized(300_000, 1_500_000) }, async () => {
    const folder = temporaryFolder()
    const { context } = await furnish(openContext({ file: join(folder, 'practice.db') }))
    const people = Array.from({ length: PEOPLE }, (_, n) => visit(context, `person${n}@example.com`, `P${n}`))
    askPracticeClock(context.db, thursdayNoon + 10 * DAY)

    // While the engine runs and dies, some leave: what had begun to leave by then is all they may ever get.
    const dice = diceOf(20261126)
    const gone = new Map<number, Set<number>>()
    const someoneLeaves = () => {
      const personId = people[Math.floor(dice() * people.length)]!
      const rows = many(
        context.db, `SELECT id, status IN ('handing over', 'handed over') AS begun FROM outbox WHERE person_id = ${personId}`,
      )
      if (gone.size >= 150 || gone.has(personId) || rows.length === 0) return
      // As the web server writes beside an engine: it looks often enough to come in between two of its transactions.
      const begun = immediate(context.db, () => {
        // One that a killed engine had handed over is queued again by the next, which finds out that it has arrived.
        const now = many(context.db, `SELECT id FROM outbox o WHERE person_id = ${personId} AND (status IN ('handing over', 'handed over')
          OR EXISTS (SELECT 1 FROM mailbox b WHERE b.message_ref = o.message_ref))`)
        leave(context, rows[0]!.id!, { what: 'everything' })
        return now.map(row => row.id!)
      })
      gone.set(personId, new Set(begun))
    }
    const { kills } = await runAndKill({
      file: child, perPoint: sized(3, 25), atRandom: sized(4, 40), dice, meanwhile: someoneLeaves,
      env: { MODE: 'practice', PORCH_DATA: folder },
    })

    const arrived = many(context.db, `
      SELECT o.person_id AS person, o.id, count(*) AS n FROM mailbox b JOIN outbox o ON o.message_ref = b.message_ref
      GROUP BY o.id`)
    const twice = many(context.db, `
      SELECT count(*) AS n
      FROM (SELECT 1 FROM outbox WHERE handed_over_at IS NOT NULL GROUP BY person_id, item_id HAVING count(*) > 1)`)[0]!.n
    const offered = many(context.db, 'SELECT sum(deliveries) AS n, count(*) AS rows FROM mailbox')[0]!
    console.info(
      `practice, ${PEOPLE} people, ${arrived.length} emails; killed at ${sayKills(kills)}; ${gone.size} left meanwhile; ${offered.n! - offered.rows!} emails were offered to the mailbox a second time and not taken`,
    )

    for (const point of [...POINTS, 'a random moment']) expect(kills[point], point).toBeGreaterThan(0)
    expect(gone.size).toBeGreaterThan(10)
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
    expect(many(context.db, `SELECT count(*) AS n FROM events WHERE kind = 'may-repeat'`)[0]!.n).toBe(0)
    context.db.close()
  })

  it('loses nothing over SMTP, and repeats only what was in flight', { timeout: sized(300_000, 1_500_000) }, async () => {
    const folder = temporaryFolder()
    mkdirSync(folder, { recursive: true })
    const { context } = await furnish(
      openContext({ file: join(folder, 'live.db'), mode: 'live', clock: { at: Date.now() } }),
      () => [step('one', { kind: 'at-once' }, email('one'))],
    )
    for (let n = 0; n < PEOPLE; n++) visit(context, `person${n}@example.com`)

    const { arrivals, port, close } = await receiving()
    const { kills } = await runAndKill({
      file: child, perPoint: sized(3, 25), atRandom: sized(4, 40), dice: diceOf(7),
      env: { MODE: 'live', PORCH_DATA: folder, PORCH_SMTP_URL: `smtp://127.0.0.1:${port}` },
    })
    await close()

    const repeats = [...arrivals.values()].reduce((sum, n) => sum + n - 1, 0)
    const counted = many(context.db, 'SELECT sum(repeats) AS n FROM outbox')[0]!.n!
    console.info(
      `SMTP, ${PEOPLE} emails; killed at ${sayKills(kills)}; ${repeats} arrived twice, ${counted} were counted as possible repeats`,
    )
    const killed = Object.values(kills).reduce((sum, n) => sum + n, 0)
    expect(killed).toBeGreaterThan(sized(10, 40))
    expect(arrivals.size).toBe(PEOPLE)
    expect(Math.max(...arrivals.values())).toBeGreaterThan(1) // else the test has not reached what it is about
    expect(repeats).toBeLessThanOrEqual(counted)
    expect(counted).toBeLessThanOrEqual(killed * 5) // the number of connections
    expect(many(context.db, `SELECT count(*) AS n FROM outbox WHERE status != 'handed over'`)[0]!.n).toBe(0)
    context.db.close()
  })
})

describe('an engine that is killed in the middle of a broadcast', () => {
  const MANY = sized(800, 10_000)
  const EACH = sized(1, 20)
  /** Among how many people or emails a kill falls: few enough that all of them fall before the last. */
  const besides = { gathering: MANY / (2 * EACH), queueing: MANY / (6 * EACH) }

  /** A workspace with so many people on a list, and a broadcast to them that is to begin. */
  async function beginning(options: Parameters<typeof openContext>[0]) {
    const setting = await furnish(openContext(options), () => [step('one', { kind: 'elapsed', count: 80, unit: 'days', from: 'joining' })])
    const { context, listId } = setting
    const at = context.clock.now()
    immediate(context.db, () => {
      const person = context.db.prepare(`INSERT INTO people (address, address_key, status, source, created_at, country)
        VALUES (@address, @address, 'active', 'import', @at, NULL)`)
      const event = context.db.prepare(`INSERT INTO events (kind, at, person_id) VALUES ('opted-in', ?, ?)`)
      const member = context.db.prepare('INSERT INTO list_members (list_id, person_id, joined_at, event_id) VALUES (?, ?, ?, ?)')
      for (let n = 0; n < MANY; n++) {
        const personId = person.run({ address: `person${n}@d${n % 7}.example.com`, at }).lastInsertRowid
        member.run(listId, personId, at, event.run(at, personId).lastInsertRowid)
      }
    })
    const id = writeBroadcast(context, listId)
    await scheduleBroadcast(context, id)
    // The minute in which it could be taken back is over.
    context.db.prepare('UPDATE sends SET held_until_at = 0 WHERE held_until_at IS NOT NULL').run()
    return { ...setting, id }
  }
  const fates = ({ db }: ReturnType<typeof openContext>) => many(db, `
    SELECT count(*) AS emails, count(DISTINCT person_id) AS people, sum(status = 'handed over') AS sent FROM outbox
    WHERE kind = 'broadcast'`)[0]!

  it('sends it to each exactly once in practice', { timeout: sized(300_000, 1_500_000) }, async () => {
    const folder = temporaryFolder()
    const { context, id } = await beginning({ file: join(folder, 'practice.db') })
    askPracticeClock(context.db, thursdayNoon + DAY)
    const { kills } = await runAndKill({
      file: child, besides, perPoint: EACH, atRandom: sized(2, 40), dice: diceOf(20261130), env: { MODE: 'practice', PORCH_DATA: folder },
    })
    console.info(`broadcast in practice, ${MANY} people; killed at ${sayKills(kills)}`)
    for (const point of ['gathering', 'queueing', 'while handing over', 'before marking']) expect(kills[point], point).toBeGreaterThan(0)
    expect(fates(context)).toEqual({ emails: MANY, people: MANY, sent: MANY })
    expect(many(context.db, 'SELECT count(*) AS n, count(DISTINCT message_ref) AS refs FROM mailbox')[0]).toEqual({ n: MANY, refs: MANY })
    expect(broadcastView(context, id)).toMatchObject({ state: 'sent', progress: { audience: MANY, handedOver: MANY, waiting: 0 } })
    context.db.close()
  })

  it('repeats over SMTP only what was in flight, and loses nobody', { timeout: sized(300_000, 1_500_000) }, async () => {
    const folder = temporaryFolder()
    const { context, id } = await beginning({ file: join(folder, 'live.db'), mode: 'live', clock: { at: Date.now() } })
    const { arrivals, port, close } = await receiving()
    const { kills } = await runAndKill({
      file: child, besides, perPoint: EACH, atRandom: sized(2, 40), dice: diceOf(11),
      env: { MODE: 'live', PORCH_DATA: folder, PORCH_SMTP_URL: `smtp://127.0.0.1:${port}` },
    })
    await close()
    const repeats = [...arrivals.values()].reduce((sum, n) => sum + n - 1, 0)
    const counted = many(context.db, 'SELECT sum(repeats) AS n FROM outbox')[0]!.n!
    console.info(`broadcast over SMTP, ${MANY} people; killed at ${sayKills(kills)}; ${repeats} arrived twice, ${counted} may have`)
    for (const point of ['gathering', 'queueing', 'while handing over']) expect(kills[point], point).toBeGreaterThan(0)
    expect([arrivals.size, fates(context)]).toEqual([MANY, { emails: MANY, people: MANY, sent: MANY }])
    expect(repeats).toBeLessThanOrEqual(counted)
    expect(counted).toBeLessThanOrEqual(Object.values(kills).reduce((sum, n) => sum + n, 0) * 5)
    expect(broadcastView(context, id).state).toBe('sent')
    context.db.close()
  })
})
