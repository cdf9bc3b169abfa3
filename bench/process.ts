/** Measurements in a process of their own: how much memory they need, and what others feel meanwhile. */
import { fork } from 'node:child_process'
import { hasTag } from '#data/marks'
import { optIn } from '#usecases/arrive/optIn'
import { doToMany, taskView } from '#usecases/know/doToMany'
import { receiveImport } from '#usecases/know/importFile'
import { beginImport } from '#usecases/know/importPeople'
import { importPlan } from '#usecases/views/importPlan'
import { subscribersView } from '#usecases/views/subscribers'
import { workOnTask } from '#usecases/time/tasks'
import { bareInserts } from './bare'
import { benchHouse } from './house'
import { ms, percentile, timed } from './measure'

const [task, file] = process.argv.slice(2) as [string, string]
const ROWS = 100_000
const narrowing = { where: null, status: null, tagId: null, listId: null, segmentId: null, pageId: null, standing: null, behind: null, trouble: null }

/** Ours and plain inserts of the same rows, in the same file, with transactions of the same size. */
async function importing(): Promise<string[]> {
  const house = benchHouse(file)
  const table = (name: string) => `email,first name,country,town\n${Array.from({ length: ROWS }, (_, n) => `${name}${n}@example.com,"Name ${n % 977}",${['PT', 'Germany', 'US', ''][n % 4]},Porto`).join('\n')}\n`
  const townId = house.db.prepare<[], number>(`SELECT id FROM fields WHERE name = 'town'`).pluck().get()!
  const spec = {
    columns: (['address', 'first-name', 'country'] as const).map(kind => ({ target: { kind }, dateOrder: 'day-month-year' as const })).concat([{ target: { kind: 'field', fieldId: townId } as never, dateOrder: 'day-month-year' }]),
    listIds: [1], tagIds: [20], source: 'bench', starts: true, known: 'keep' as const, consent: { kind: 'given' as const, origin: 'at the fair', wording: 'Letters, please.', date: '2026-11-01' },
  }
  const begin = performance.now()
  const id = await receiveImport(house, { fileName: 'bench.csv', bytes: new TextEncoder().encode(table('ours')), encoding: null, delimiter: null })
  const read = performance.now() - begin
  const { ms: planning } = timed(() => importPlan(house, { id, spec }))
  const taskId = beginImport(house, id, spec)
  const { ms: working } = timed(() => { while (workOnTask(house)); })
  const { changed } = taskView(house, taskId)
  if (changed !== ROWS) throw new Error(`${changed} of ${ROWS} rows came in`)
  const { ms: bare } = timed(() => bareInserts(house, ROWS, townId))
  const memory = process.resourceUsage().maxRSS / 1024
  return [
    `Reading the file took ${ms(read)} ms, the plan ${ms(planning)} ms, working the rows off ${ms(working)} ms: ${Math.round(ROWS / (working / 1000)).toLocaleString('en-GB')} rows a second.`,
    `Bare inserts of the same rows (people, events, what is personal of them, consent, list, tag, field; transactions of as many people) took ${ms(bare)} ms.`,
    `The import reaches ${Math.round(100 * bare / (read + working))} % of their speed with reading the file, ${Math.round(100 * bare / working)} % without (promised: 40 %). Most memory ${Math.round(memory)} MB (promised: under 300).`,
  ]
}

/** The engine gives the tag in another process; here somebody looks at the table and others sign up. */
async function tagging(): Promise<string[]> {
  const house = benchHouse(file)
  const people = house.db.prepare<[], number>(`SELECT id FROM people WHERE gone IS NULL ORDER BY id LIMIT ${ROWS}`).pluck().all()
  const db = house.db
  db.prepare(`INSERT INTO tags (name, created_at) VALUES ('given to many', 0)`).run()
  const tagId = db.prepare<[], number>(`SELECT id FROM tags WHERE name = 'given to many'`).pluck().get()!
  const taskId = doToMany(house, { kind: 'picked', ids: people }, { kind: 'give-tag', tagId }, people.length)
  const child = fork(process.argv[1]!, ['work', file])
  const begin = performance.now()
  const ended = new Promise<number>((resolve, reject) => child.on('exit', code => code === 0 ? resolve(performance.now() - begin) : reject(new Error(`The engine ended with ${code}`))))
  const [pages, signUps]: [number[], number[]] = [[], []]
  let over = false
  void ended.then(() => over = true)
  for (let n = 0; !over; n++) {
    pages.push(timed(() => subscribersView(house, { ...narrowing, search: '', sort: 'newest', page: n % 20 })).ms)
    signUps.push(timed(() => optIn(house, { slug: 'kit', email: `meanwhile${n}@example.com`, firstName: '', zone: '', ip: null })).ms)
    await new Promise(resolve => setTimeout(resolve, 20))
  }
  const took = await ended
  if (taskView(house, taskId).changed !== people.length || !hasTag(db, tagId, people.at(-1)!)) throw new Error('Not everybody got the tag')
  const span = (values: number[]) => `half under ${ms(percentile(values, 0.5))} ms, 99 of 100 under ${ms(percentile(values, 0.99))} ms, slowest ${ms(Math.max(...values))} ms`
  return [
    `${people.length.toLocaleString('en-GB')} people had it after ${(took / 1000).toFixed(1)} s (promised: under 10).`,
    `Meanwhile ${pages.length} first pages of the table: ${span(pages)}.`,
    `Meanwhile ${signUps.length} sign-ups: ${span(signUps)}.`,
  ]
}

/** The engine's part of {@link tagging}. */
function work(): string[] {
  const house = benchHouse(file)
  while (workOnTask(house));
  house.db.close()
  return []
}

const lines = await ({ import: importing, tag: tagging, work: async () => work() } as Record<string, () => Promise<string[]>>)[task]!()
if (process.send) process.send(lines, () => process.exit(0))
