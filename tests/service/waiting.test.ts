/** The engine while the web server makes the database or brings it up to date, which may take long. */
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { openDatabase, type Database } from '#data/connection'
import { migrate, MIGRATIONS, SchemaProblem } from '#data/migrate'
import { openWhenReady } from '#engine/waiting'
import { openMigrated } from '#runtime/open'
import { temporaryFolder } from './workshop'

const MINUTE = 60_000

/** What happens at each look, with a clock that moves only by waiting. */
function waits(file: string, happens: (at: number) => { alive: boolean, stop?: boolean }) {
  let at = 0
  let now = happens(0)
  return openWhenReady<Database>({
    open: () => openMigrated(file), webIsAlive: () => now.alive, isStopped: () => now.stop ?? false, clock: { now: () => at },
    async pause(ms) {
      now = happens(at += ms)
    },
  })
}

/** At the schema before the latest. */
function older(): string {
  const file = join(temporaryFolder(), 'practice.db')
  const db = openDatabase(file)
  migrate(db, 0, MIGRATIONS.slice(0, -1))
  db.close()
  return file
}

it('B3: waits for a migration that takes minutes, and goes on once it is done', async () => {
  const file = older()
  const web = openDatabase(file)
  // The migrating transaction is open all the time: others may read, and find the older schema.
  web.exec('BEGIN IMMEDIATE')
  let isDone = false
  const db = await waits(file, (at) => {
    if (at >= 3 * MINUTE && !isDone) {
      web.exec('COMMIT')
      migrate(web, 0)
      isDone = true
    }
    return { alive: true }
  })
  expect([isDone, db!.prepare('SELECT max(number) FROM migrations').pluck().get()]).toEqual([true, MIGRATIONS.length])
  db!.close()
  web.close()
})

it('gives up a minute after the web server was last there, and says so; stopped, it just ends', async () => {
  const file = older()
  let lastSeen = 0
  await expect(waits(file, (at) => {
    if (at <= MINUTE / 4) lastSeen = at
    return { alive: at <= MINUTE / 4 }
  })).rejects.toThrow(new SchemaProblem('The web server, which makes the database, has not been there for a minute.'))
  expect(lastSeen).toBe(MINUTE / 4)
  expect(await waits(file, at => ({ alive: false, stop: at >= MINUTE / 2 }))).toBeNull()
})
