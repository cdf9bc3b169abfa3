/**
 * A broadcast handed to a mail server on this machine, made and marked email by email, beside nodemailer’s own pool that sends emails which
 * are made already to the same server; people sign up meanwhile.
 */
import { fork, type ChildProcess } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { createTransport } from 'nodemailer'
import { newBroadcast } from '#core/broadcast/draft'
import { newPage } from '#core/page/content'
import { email } from '#core/sequence/templates/write'
import { HOUR } from '#core/time/zone'
import { openTask } from '#data/tasks'
import { setSenderConfirmed, allSenders } from '#data/senders'
import { keysIn } from '#runtime/keys'
import { databaseFile, engineContextOn, openMigrated, systemClock } from '#runtime/open'
import { readSettings } from '#runtime/settings'
import { optIn } from '#usecases/arrive/optIn'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { createBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import type { EngineContext, WorkspaceContext } from '#usecases/context'
import { saveList } from '#usecases/know/listsAndTags'
import { beginDueSends } from '#usecases/sending/audience'
import { saveSettings } from '#usecases/settings/workspace'
import { workOnTask } from '#usecases/time/tasks'
import { Engine } from '../engine/loop'
import { benchContext } from './context'
import { listenForMail } from './mailSink'
import { ms, percentile } from './measure'

const PEOPLE = 10_000
const TURNS = 3
/** As many as the engine has by itself. */
const CONNECTIONS = 5
/** A busy day: the page is answered to somebody every so often. */
const SIGN_UP_EVERY_MS = 50
const WORDS = 'Fold once and trust the grain: that is where the spine wants to be, and a sheet does not lie. '

/* In processes of their own */

/** Takes every email and says so; tells its port. */
export async function takeMail(): Promise<never> {
  process.send!({ port: await listenForMail() })
  return new Promise(() => undefined)
}

/** The engine as it ships, until nothing waits any more. */
export async function sendAsEngine(folder: string, port: number): Promise<Sent> {
  const settings = readSettings({ ...process.env, PORCH_DATA: folder, PORCH_SMTP_URL: `smtp://127.0.0.1:${port}` })
  const db = openMigrated(databaseFile(settings, 'live'))
  const context: EngineContext = {
    ...engineContextOn(
      db, settings, keysIn(folder), `bench-${process.pid}`, async () => ({ problem: null }) as never, join(import.meta.dirname, 'smtp.mjs'),
    ),
    summaryOf: null, stage: () => undefined, trouble: (what, error) => console.error(what, error),
  }
  const quiet = { info() {}, warn: console.warn, error: console.error, debug() {} }
  const engine = new Engine(context, quiet as never, 'bench')
  const waits = db.prepare<[], number>(`
    SELECT EXISTS (SELECT 1 FROM outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL)
      OR EXISTS (SELECT 1 FROM outbox WHERE status IN ('leased', 'handing over'))`).pluck()
  const look = setInterval(() => {
    if (waits.get() === 0) engine.stop()
  }, 200)
  await engine.run()
  clearInterval(look)
  await context.carrier.close()
  const { n, first, last } = db.prepare<[], { n: number, first: number, last: number }>(`
    SELECT count(*) AS n, min(handed_over_at) AS first, max(handed_over_at) AS last FROM outbox WHERE kind = 'broadcast'`).get()!
  db.close()
  return { n, ms: last - first, megabytes: Math.round(process.resourceUsage().maxRSS / 1024) }
}

/** Ready emails of the same size, by nodemailer’s pool. */
export async function sendAsPool(bytes: number, port: number): Promise<Sent> {
  const pool = createTransport({
    pool: true, host: '127.0.0.1', port, secure: false, ignoreTLS: true, maxConnections: CONNECTIONS, maxMessages: Infinity,
  })
  const head = (n: number) => `From: ines@example.com\r\nTo: p${n}@example.com\r\nSubject: Winter papers\r\nMessage-ID: <${n}@example.com>\r\n\r\n`
  const body = `${WORDS}\r\n`.repeat(Math.ceil(bytes / (WORDS.length + 2)))
  const begin = performance.now()
  await Promise.all(Array.from({ length: PEOPLE }, (_, n) => pool.sendMail({
    envelope: { from: 'ines@example.com', to: [`p${n}@example.com`] }, raw: head(n) + body,
  })))
  const took = performance.now() - begin
  pool.close()
  return { n: PEOPLE, ms: took, megabytes: Math.round(process.resourceUsage().maxRSS / 1024) }
}

export interface Sent { n: number, ms: number, megabytes: number }

/* Together */

/** A live workspace with everybody on a list, and a broadcast whose emails wait. */
async function furnished(folder: string): Promise<WorkspaceContext> {
  const context: WorkspaceContext = { ...benchContext(join(folder, 'live.db'), 'live'), clock: systemClock }
  const { db } = context
  saveSettings(context, {
    name: 'Big bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@example.com', postalAddress: 'Rua 1',
    currency: 'EUR', smtpUrl: null,
  })
  const now = systemClock.now()
  for (const { id } of allSenders(db)) setSenderConfirmed(db, id, now)
  const listId = saveList(context, null, { name: 'letters', publicName: 'Letters', description: 'Letters.' })
  const page = newPage('Sheet kit')
  const pageId = createPage(context, 'Sheet kit')
  savePage(context, pageId, {
    name: 'Sheet kit', slug: 'kit', draft: { ...page, listIds: [listId], confirming: { ...page.confirming, who: 'nobody' } },
  })
  await publishPage(context, pageId)
  const event = Number(db.prepare(`INSERT INTO events (kind, at) VALUES ('imported', 0)`).run().lastInsertRowid)
  db.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${PEOPLE})
    INSERT INTO people (id, address, address_key, first_name, search_text, status, source, created_at)
      SELECT i, 'p' || i || '@example.com', 'p' || i || '@example.com', 'Ada', 'p' || i || '@example.com', 'active', 'import',
        ${now - 900 * HOUR} FROM n;
    INSERT INTO list_members (list_id, person_id, joined_at, event_id) SELECT ${listId}, id, ${now - 900 * HOUR}, ${event} FROM people;
    DELETE FROM segment_queue;`)
  const id = createBroadcast(context)
  saveBroadcast(context, id, {
    ...newBroadcast(listId), guards: { newcomerDays: null, insideCourseIds: [], owners: true },
    content: email('Winter papers', 'Winter papers', 'x', ...Array.from({ length: 40 }, () => `Hello {name|there}. ${WORDS.repeat(3)}`)),
  })
  await scheduleBroadcast(context, id)
  db.exec('UPDATE sends SET held_until_at = NULL, due_at = 1 WHERE held_until_at IS NOT NULL')
  beginDueSends(context, systemClock.now())
  while (openTask(db)) workOnTask(context)
  db.exec('ANALYZE')
  return context
}

type Start = (task: string, ...rest: string[]) => ChildProcess

interface Turn { ours: Sent, before: Sent, after: Sent, bytes: number, signUps: number[] }

const sentBy = (child: ChildProcess) => new Promise<Sent>((resolve, reject) => {
  child.once('message', message => resolve(message as Sent))
  child.once('exit', code => code === 0 ? undefined : reject(new Error(`It ended with ${code}`)))
})

async function turnIn(folder: string, start: Start, port: number): Promise<Turn> {
  const context = await furnished(folder)
  try {
    const bytes = context.db.prepare<[], number>('SELECT length(html) + length(text) FROM messages ORDER BY id DESC LIMIT 1').pluck().get()!
    const pool = () => sentBy(start('pool', String(bytes), String(port)))
    const before = await pool()
    const engine = sentBy(start('engine', folder, String(port)))
    let over = false
    void engine.then(() => over = true, () => over = true)
    const signUps: number[] = []
    for (let n = 0; !over; n++) {
      const begin = performance.now()
      optIn(context, { slug: 'kit', email: `meanwhile${n}@example.org`, firstName: '', zone: '', ip: null })
      signUps.push(performance.now() - begin)
      await new Promise(resolve => setTimeout(resolve, SIGN_UP_EVERY_MS))
    }
    const ours = await engine
    if (ours.n !== PEOPLE) throw new Error(`${ours.n} of ${PEOPLE} emails were handed over`)
    return { ours, before, after: await pool(), bytes, signUps }
  }
  finally {
    context.db.close()
  }
}

/**
 * `start`: runs one of the tasks above in a process of its own. There are several turns, because one can be off by a third on a machine
 * that others use.
 */
export async function measureHandingOver(folder: string, start: Start): Promise<string[]> {
  const server = start('take-mail')
  try {
    const { port } = await new Promise<{ port: number }>(resolve => server.once('message', message => resolve(message as { port: number })))
    const turns: Turn[] = []
    for (let n = 0; n < TURNS; n++) {
      const own = join(folder, `turn-${n}`)
      mkdirSync(own)
      turns.push(await turnIn(own, start, port))
    }
    const rate = ({ n, ms: took }: Sent) => n * 1000 / took
    const shareOf = ({ ours, before, after }: Turn) => 2 * rate(ours) / (rate(before) + rate(after))
    const count = (n: number) => Math.round(n).toLocaleString('en-GB')
    const percent = (share: number) => Math.round(100 * share)
    const signUps = turns.flatMap(turn => turn.signUps)
    return [
      `${count(PEOPLE)} emails of a broadcast, ${Math.round(turns[0]!.bytes / 1000)} kB each, are made, marked and handed to a mail server on this machine, beside nodemailer’s own pool, which sends as many that are made already to the same server:`,
      ...turns.map((turn, n) => `Turn ${n + 1}: ${count(rate(turn.ours))} a second; the pool ${count(rate(turn.before))} before and ${count(rate(turn.after))} after. That is ${percent(shareOf(turn))} % of its rate.`),
      `In the middle ${percent(percentile(turns.map(shareOf), 0.5))} % of its rate (promised: 70 %). The engine’s most memory: ${Math.max(...turns.map(({ ours }) => ours.megabytes))} MB (promised: under 400).`,
      `Meanwhile ${signUps.length} sign-ups, none refused: half under ${ms(percentile(signUps, 0.5))} ms, 99 of 100 under ${ms(percentile(signUps, 0.99))} ms (promised: 50), slowest ${ms(Math.max(...signUps))} ms.`,
    ]
  }
  finally {
    server.kill()
  }
}

export const startIn = (script: string): Start => (task, ...rest) => fork(script, [task, ...rest])
