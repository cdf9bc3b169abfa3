/** Measurements in a process of their own: how much memory they need, and what others feel meanwhile. */
import { fork } from 'node:child_process'
import type { ImportColumn, ImportSpec } from '#core/exchange/importing'
import { newRule, type Action } from '#core/rules/rule'
import { hasTag } from '#data/marks'
import { insertRule } from '#data/rules'
import { optIn } from '#usecases/arrive/optIn'
import type { WorkspaceContext } from '#usecases/context'
import { doToMany, taskView } from '#usecases/know/doToMany'
import { receiveImport } from '#usecases/know/importFile'
import { beginImport } from '#usecases/know/importPeople'
import { importPlan } from '#usecases/views/importPlan'
import { subscribersView } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { workOnTask } from '#usecases/time/tasks'
import { bareInserts } from './bare'
import { benchContext } from './context'
import { measureEmails } from './emails'
import { sendAsEngine, sendAsPool, takeMail } from './handOver'
import { ms, percentile, timed } from './measure'

const [task, file] = process.argv.slice(2) as [string, string]
const ROWS = 100_000

const table = () =>
  `email,first name,country,town\n${Array.from({ length: ROWS }, (_, n) => `ours${n}@example.com,"Name ${n % 977}",${['PT', 'Germany', 'US', ''][n % 4]},Porto`).join('\n')}\n`
const megabytes = () => `most memory ${Math.round(process.resourceUsage().maxRSS / 1024)} MB (promised: under 300)`
const townOf = ({ db }: WorkspaceContext) => db.prepare<[], number>(`SELECT id FROM fields WHERE name = 'town'`).pluck().get()!

/** The server's part: reading the file, the plan, beginning. */
async function bringing(): Promise<string[]> {
  const context = benchContext(file)
  const spec: ImportSpec = {
    columns: (['address', 'first-name', 'country'] as const).map((kind): ImportColumn => ({
      target: { kind }, dateOrder: 'day-month-year',
    })).concat([{ target: { kind: 'field', fieldId: townOf(context) }, dateOrder: 'day-month-year' }]),
    listIds: [1], tagIds: [20], source: 'bench', starts: true, known: 'keep',
    consent: { kind: 'given', origin: 'at the fair', wording: 'Letters, please.', date: '2026-11-01' },
  }
  const bytes = new TextEncoder().encode(table())
  const begin = performance.now()
  const id = await receiveImport(context, { fileName: 'bench.csv', bytes, encoding: null, delimiter: null })
  const read = performance.now() - begin
  const { ms: planning } = timed(() => importPlan(context, { id, spec }))
  beginImport(context, id, spec)
  return [`Server: reading the file took ${ms(read)} ms, the plan ${ms(planning)} ms; ${megabytes()}.`]
}

/** The engine's part; then plain inserts of the same rows in the same file, in transactions of as many people. */
async function importing(): Promise<string[]> {
  const context = benchContext(file)
  const { ms: working } = timed(() => { while (workOnTask(context)); })
  const memory = megabytes()
  const came = context.db.prepare<[], number>(`SELECT count(*) FROM people WHERE source = 'import:bench' AND gone IS NULL`).pluck().get()
  if (came !== ROWS) throw new Error(`${came} of ${ROWS} rows came in`)
  const { ms: bare } = timed(bareInserts(context, ROWS, townOf(context)))
  return [
    `Engine: working the rows off took ${ms(working)} ms, ${Math.round(ROWS / (working / 1000)).toLocaleString('en-GB')} rows a second; ${memory}.`,
    'Writing the same rows bare (people, events, what is personal of them, consent, list, tag, field, what became of the row) took '
    + `${ms(bare)} ms.`,
    `The import reaches ${Math.round(100 * bare / working)} % of their speed (promised: 40 %).`,
  ]
}

/** The engine gives the tag in another process; here somebody looks at the table and others sign up. */
async function tagging(): Promise<string[]> {
  const context = benchContext(file)
  const people = context.db.prepare<[], number>(`SELECT id FROM people WHERE gone IS NULL ORDER BY id LIMIT ${ROWS}`).pluck().all()
  const db = context.db
  db.prepare(`INSERT INTO tags (name, created_at) VALUES ('given to many', 0)`).run()
  const tagId = db.prepare<[], number>(`SELECT id FROM tags WHERE name = 'given to many'`).pluck().get()!
  const others = db.prepare<[number], number>('SELECT id FROM tags WHERE id <> ? ORDER BY id DESC LIMIT 2').pluck().all(tagId)
  for (const then of [
    [{ kind: 'give-tag', tagId: others[0]! }], [{ kind: 'score', points: 3 }], [{ kind: 'take-tag', tagId: others[1]! }],
  ] satisfies Action[][]) insertRule(db, newRule({ kind: 'got-tag', thingId: tagId }, then), context.clock.now())
  const taskId = doToMany(context, { kind: 'picked', ids: people }, { kind: 'give-tag', tagId }, people.length)
  const child = fork(process.argv[1]!, ['work', file])
  const begin = performance.now()
  const ended = new Promise<number>((resolve, reject) =>
    child.on('exit', code => code === 0 ? resolve(performance.now() - begin) : reject(new Error(`The engine ended with ${code}`))))
  const [pages, signUps]: [number[], number[]] = [[], []]
  let over = false
  void ended.then(() => over = true)
  for (let n = 0; !over; n++) {
    pages.push(timed(() => subscribersView(context, { ...NOT_NARROWED, search: '', sort: 'newest', page: n % 20 })).ms)
    signUps.push(timed(() => optIn(context, { slug: 'kit', email: `meanwhile${n}@example.com`, firstName: '', zone: '', ip: null })).ms)
    await new Promise(resolve => setTimeout(resolve, 20))
  }
  const took = await ended
  if (taskView(context, taskId).changed !== people.length || !hasTag(db, tagId, people.at(-1)!)) {
    throw new Error('Not everybody got the tag')
  }
  const span = (values: number[]) =>
    `half under ${ms(percentile(values, 0.5))} ms, 99 of 100 under ${ms(percentile(values, 0.99))} ms, slowest ${ms(Math.max(...values))} ms`
  return [
    `${people.length.toLocaleString('en-GB')} people had it, and the three rules had acted on each, after ${(took / 1000).toFixed(1)} s (promised: under 60).`,
    `Meanwhile ${pages.length} first pages of the table: ${span(pages)}.`,
    `Meanwhile ${signUps.length} sign-ups: ${span(signUps)}.`,
  ]
}

/** The engine's part of {@link tagging}. */
async function work(): Promise<string[]> {
  const context = benchContext(file)
  // As the engine does: others may write between two bits.
  while (workOnTask(context)) await new Promise(resolve => setTimeout(resolve, 2))
  context.db.close()
  return []
}

const TASKS: Record<string, () => Promise<unknown>> = {
  'bring': bringing, 'import': importing, 'tag': tagging, work, 'emails': measureEmails, 'take-mail': takeMail,
  'engine': () => sendAsEngine(file, Number(process.argv[4])), 'pool': () => sendAsPool(Number(file), Number(process.argv[4])),
}
const answer = await TASKS[task]!()
if (process.send) process.send(answer, () => process.exit(0))
else console.log(answer)
