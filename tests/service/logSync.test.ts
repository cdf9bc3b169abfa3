/** Commits that wait for the disk beside other work. */
import { join } from 'node:path'
import { expect, it, vi } from 'vitest'
import { openDatabase } from '#data/connection'
import { immediateUnsynced, logSynced } from '#data/logSync'
import { temporaryFolder } from '../temporary'

const disk = vi.hoisted(() => ({ waiting: [] as ((error: Error | null) => void)[] }))
vi.mock('node:fs', async original => ({
  ...await original<typeof import('node:fs')>(),
  fdatasync: (_file: number, done: (error: Error | null) => void) => disk.waiting.push(done),
}))

it('each waits for a turn of the disk that began after it was committed, and others wait for the same; a failure is theirs alone', async () => {
  const db = openDatabase(join(temporaryFolder(), 'a.db'))
  db.exec('CREATE TABLE t (n INTEGER)')
  const told: string[] = []
  const commit = (name: string) => {
    immediateUnsynced(db, () => db.exec('INSERT INTO t VALUES (1)'))
    return logSynced(db).then(() => told.push(name), () => told.push(`${name} failed`))
  }
  const settled = () => new Promise(setImmediate)
  const first = commit('first')
  await settled()
  const [second, third] = [commit('second'), commit('third')]
  await settled()
  expect(disk.waiting).toHaveLength(1)
  disk.waiting.shift()!(new Error('EIO'))
  await first
  await settled()
  expect([told, disk.waiting.length]).toEqual([['first failed'], 1])
  disk.waiting.shift()!(null)
  await Promise.all([second, third])
  expect([told, disk.waiting.length]).toEqual([['first failed', 'second', 'third'], 0])
  // Every other transaction waits for the disk itself.
  expect(db.pragma('synchronous', { simple: true })).toBe(2)
  expect(() => immediateUnsynced(db, () => {
    throw new Error('not now')
  })).toThrow('not now')
  expect(db.pragma('synchronous', { simple: true })).toBe(2)
  db.close()
})

it('there is nothing to wait for in memory', async () => {
  const db = openDatabase(':memory:')
  immediateUnsynced(db, () => db.exec('CREATE TABLE t (n INTEGER)'))
  await logSynced(db)
  expect(disk.waiting).toEqual([])
  db.close()
})
