/** B5: a database that cannot be written. The errors are SQLite's own, brought about on the connection. */
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { databaseTrouble } from '#data/connection'
import { SchemaProblem } from '#data/migrate'
import { emailsOfPerson } from '#data/outbox'
import { openAndMigrate, openMigrated } from '#runtime/open'
import { play } from '#usecases/time/play'
import { temporaryFolder } from '../temporary'
import { furnish, HOUR, openContext, thursdayNoon, visit, type Workshop } from './workshop'

const BROKEN: [string, (context: Workshop) => void, (context: Workshop) => void, RegExp][] = [
  [
    'a full disk', ({ db }) => db.pragma(`max_page_count = ${db.pragma('page_count', { simple: true }) as number}`),
    ({ db }) => db.pragma('max_page_count = 1073741823'), /disk is full/,
  ],
  ['a folder that is read only', ({ db }) => db.pragma('query_only = ON'), ({ db }) => db.pragma('query_only = OFF'), /cannot be written/],
]
const counts = ({ db }: Workshop) => db.prepare(
  'SELECT (SELECT count(*) FROM people) AS people, (SELECT count(*) FROM events) AS events, (SELECT count(*) FROM outbox) AS emails',
).get()
const big = 'x'.repeat(60)

describe.each(BROKEN)('B5: %s', (_, breakIt, mendIt, words) => {
  it('is one plain sentence, nothing is half done, and it goes on when it is over', async () => {
    const clock = { at: thursdayNoon }
    const { context } = await furnish(openContext({ mode: 'live', clock }))
    const ada = visit(context, 'ada@example.com')
    breakIt(context)
    let before = counts(context)
    let failed: unknown = null
    // A full database still has some room in its last pages: it is filled until there is none.
    for (let n = 0; n < 2000 && !failed; n++) {
      before = counts(context)
      try {
        visit(context, `${big}${n}@example.com`, big)
      }
      catch (error) {
        failed = error
      }
    }
    expect(databaseTrouble(failed)?.sentence).toMatch(words)
    expect(counts(context)).toEqual(before)
    // The engine fails whole, too, and sends nothing that it cannot write down.
    await play(context, clock.at).catch(error => expect(databaseTrouble(error)).not.toBeNull())
    mendIt(context)
    clock.at += HOUR
    await play(context, clock.at)
    expect(emailsOfPerson(context.db, ada).map(({ status }) => status)).toEqual(['handed over'])
    visit(context, 'late@example.com')
    expect(context.db.pragma('integrity_check', { simple: true })).toBe('ok')
  })
})

it('B5: a damaged file is one plain sentence with its name, and starting again is not tried', () => {
  const file = join(temporaryFolder(), 'practice.db')
  openAndMigrate(file).close()
  const whole = readFileSync(file)
  const damages: [string, Buffer][] = [
    ['no database at all', Buffer.from('not a database, but a letter to somebody. '.repeat(500))],
    ['its pages overwritten', Buffer.concat([whole.subarray(0, 3000), Buffer.alloc(whole.length - 3000, 7)])],
  ]
  for (const [what, bytes] of damages) {
    writeFileSync(file, bytes)
    for (const open of [openAndMigrate, openMigrated]) {
      expect(() => open(file), what).toThrow(SchemaProblem)
      expect(() => open(file), what).toThrow(`${file}: The database file is damaged.`)
    }
    expect(readFileSync(file).equals(bytes), 'nothing is written to it').toBe(true)
  }
})
