/**
 * `npm run bench`: makes a big workspace and prints how fast the people part
 * is on it, as ratios in one run and percentiles; `-- --write` keeps them in
 * docs/benchmarks.md, where other sections stay as they are. `-- --people 20000 --events 300000` makes a smaller one;
 * `-- --courses` measures only the courses, `-- --broadcasts` only broadcasts, `-- --emails` only the making of emails;
 * `-- --keep FILE` keeps the workspace there, or begins with the one that is there.
 */
import { fork } from 'node:child_process'
import { copyFileSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { cpus, tmpdir, totalmem } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { toCount } from '#core/audience/sql'
import { countWhere } from '#data/people'
import { fillOneSegment } from '#usecases/time/segmentQueue'
import { momentOf } from '#usecases/inner/moment'
import { audienceView } from '#usecases/views/audience'
import { subscribersView } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { measureBroadcasts } from './broadcasts'
import { measureCourses } from './courses'
import { countEvents, furnish, furnitureOf, populate } from './generate'
import { benchContext } from './context'
import { median, ms, ratio, sideBySide, timed } from './measure'
import { measureHandingOver, startIn } from './handOver'
import { partRenewed, wholeRenewed } from './page'
import { measurePublicPage } from './publicPage'
import { measureRules } from './rules'
import { measureScreens } from './screens'
import { typicalSegments } from './segments'

const { values: options } = parseArgs({ options: {
  people: { type: 'string', default: '200000' }, events: { type: 'string', default: '3000000' }, write: { type: 'boolean', default: false },
  keep: { type: 'string' }, courses: { type: 'boolean', default: false }, broadcasts: { type: 'boolean', default: false },
  emails: { type: 'boolean', default: false },
} })
const size = { people: Number(options.people), events: Number(options.events) }
const lines: string[] = []
const say = (line = '') => {
  lines.push(line)
  console.log(line)
}

const folder = mkdtempSync(join(tmpdir(), 'porch-bench-'))
const file = join(folder, 'practice.db')

const processes = process.argv[1]!.replace(/main\.mjs$/, 'process.mjs')
const handingOver = () => measureHandingOver(folder, startIn(processes))

/** Runs one of the measurements that want a process of their own. */
function inProcess(task: string, ...rest: string[]): Promise<string[]> {
  return new Promise((resolve, reject) => {
    const child = fork(processes, [task, file, ...rest])
    let answer: string[] = []
    child.on('message', message => answer = message as string[])
    child.on('exit', code => code === 0 ? resolve(answer) : reject(new Error(`${task} ended with ${code}`)))
  })
}

/** What can be measured by itself. */
const PARTS = {
  courses: { heading: 'Courses', measure: () => measureCourses(folder) },
  broadcasts: { heading: 'Broadcasts', measure: async () => [...await measureBroadcasts(folder), ...await handingOver()] },
  emails: { heading: 'Making emails', measure: () => inProcess('emails') },
}
const part = (['courses', 'broadcasts', 'emails'] as const).find(one => options[one])

async function measureWhole(): Promise<void> {
  const kept = options.keep !== undefined && existsSync(options.keep)
  if (kept) copyFileSync(options.keep!, file)
  const context = benchContext(file)
  const furniture = kept ? furnitureOf(context.db) : await furnish(context)
  const { ms: took, result: events } = timed(() => kept ? countEvents(context.db) : populate(context.db, furniture, size))
  if (options.keep && !kept) {
    context.db.pragma('wal_checkpoint(TRUNCATE)')
    copyFileSync(file, options.keep)
  }
  say(
    `${size.people.toLocaleString('en-GB')} people, ${events.toLocaleString('en-GB')} events, made from a seed${kept ? ' earlier' : ` in ${Math.round(took / 1000)} s`}. Node ${process.versions.node}, ${cpus().length} × ${cpus()[0]?.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB. All times in milliseconds, medians of 9 turns.`,
  )
  const { ms: filling } = timed(() => { while (fillOneSegment(context)); })
  say(`\nThe ready segments were filled in ${ms(filling)} ms.`)

  say(
    '\n## Counting twelve typical segments\n\n| segment | people | ours | by hand | ratio | first page of the table |\n| --- | ---: | ---: | ---: | ---: | ---: |',
  )
  const typical = typicalSegments(furniture)
  const [counted, ratios, pages]: [number[], number[], number[]] = [[], [], []]
  for (const { name, condition, hand, values } of typical) {
    const moment = momentOf(context.db, context.clock.now())
    const ours = () => countWhere(context.db, { search: '', where: toCount(condition, moment) })
    const theirs = context.db.prepare<unknown[], number>(hand).pluck()
    if (ours() !== theirs.get(...values)) throw new Error(`“${name}” counts ${ours()}, by hand ${theirs.get(...values)}`)
    const both = sideBySide(9, ours, () => theirs.get(...values))
    const narrowing = { ...NOT_NARROWED, where: condition }
    const page = median(
      Array.from({ length: 9 }, () => timed(() => subscribersView(context, { ...narrowing, search: '', sort: 'newest', page: 0 })).ms),
    )
    counted.push(both.ours)
    ratios.push(both.ours / both.theirs)
    pages.push(page)
    say(
      `| ${name} | ${ours().toLocaleString('en-GB')} | ${ms(both.ours)} | ${ms(both.theirs)} | ${ratio(both.ours / both.theirs)} | ${ms(page)} |`,
    )
  }
  say(
    `\nSlowest ratio ${ratio(Math.max(...ratios))} (promised: at most 1.50). ${counted.filter(one => one < 100).length} of 12 counted under 100 ms (promised: 9). Slowest first page ${ms(Math.max(...pages))} ms (promised: under 100).`,
  )
  const audiences = typical.map(({ condition }) => timed(() => audienceView(context, { condition, segmentId: null })).ms)
  say(
    `The audience panel, with held back people by reason and five of them: half under ${ms(median(audiences))} ms, slowest ${ms(Math.max(...audiences))} ms.`,
  )

  say('\n## Screens\n\n| | first | again |\n| --- | ---: | ---: |')
  for (const line of measureScreens(context)) say(line)

  say('\n## House rules\n')
  for (const line of measureRules(context, furniture)) say(line)

  context.db.close()
  for (const { heading, measure } of Object.values(PARTS)) {
    say(`\n## ${heading}\n`)
    for (const line of await measure()) say(line)
  }
  say('\n## A public page\n')
  for (const line of await measurePublicPage(file, process.cwd())) say(line)

  say('\n## Importing 100,000 rows\n')
  for (const task of ['bring', 'import']) for (const line of await inProcess(task)) say(line)
  say('\n## A tag to 100,000 people, which wakes three rules\n')
  for (const line of await inProcess('tag')) say(line)
}

try {
  if (part) for (const line of await PARTS[part].measure()) say(line)
  else await measureWhole()
}
finally {
  rmSync(folder, { recursive: true, force: true })
}

if (options.write) {
  const PAGE = 'docs/benchmarks.md'
  const [before, on] = [readFileSync(PAGE, 'utf8'), new Date().toISOString().slice(0, 10)]
  writeFileSync(PAGE, part ? partRenewed(before, PARTS[part].heading, lines, on) : wholeRenewed(before, lines, on))
}
