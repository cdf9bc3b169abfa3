import Sqlite from 'better-sqlite3'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PageResults } from '#core/views/pages'
import { copyFurnished, startFurnished } from './furnished'
import { Porch, until } from './porch'

let porch: Porch
beforeAll(async () => {
  porch = await (await Porch.start()).ready()
})
afterAll(() => porch.stop())

describe('the supervisor', () => {
  it.each([['the web server', 0], ['the engine', 1]])('starts %s again when it dies, and the data is there', async (_what, index) => {
    await porch.signIn()
    const { id } = await porch.do<{ id: number }>('POST', 'tags', { name: `made before death ${index}`, note: '' })
    const before = porch.children()
    expect(before).toHaveLength(2)
    process.kill(before[index]!, 'SIGKILL')
    await until(async () => {
      const now = porch.children()
      return now.length === 2 && !now.includes(before[index]!)
    }, 'another process')
    await porch.ready()
    expect(await porch.do<{ id: number }[]>('GET', 'tags')).toEqual(expect.arrayContaining([expect.objectContaining({ id })]))
  })

  it('says so when the engine is not seen for a while', async () => {
    const answer = await porch.fetch('/api/health')
    const health = await answer.json() as Record<string, unknown>
    expect(health).toMatchObject({
      well: true, web: { version: expect.any(String) }, engine: { well: true, version: expect.any(String) },
      database: { schema: expect.any(Number) },
    })
    expect(JSON.stringify(health)).not.toMatch(/@|Saltmarsh/)
  })

  it('says in one sentence that the port is taken', async () => {
    const second = await Porch.start({ PORT: String(porch.port) })
    expect(await second.exited()).toBe(1)
    expect(second.said.trim()).toMatch(/^Port \d+ is in use by another program\. .*PORT=\d+ npm start$/)
    rmSync(second.data, { recursive: true, force: true })
  })

  it('keeps a second engine off the same data, in one sentence', async () => {
    const second = await Porch.start({}, porch.data)
    expect(await second.exited()).toBe(1)
    expect(second.said).toMatch(/Another engine runs on this data folder/)
    await porch.ready()
  })

  it.each([
    ['a short password', { PORCH_PASSWORD: 'short' }, /PORCH_PASSWORD needs at least 8 characters\./],
    ['a base address that is none', { PORCH_BASE_URL: 'porch.example.com' }, /PORCH_BASE_URL must be a web address like/],
    ['a mail server that is none', { PORCH_SMTP_URL: 'mail.example.com' }, /PORCH_SMTP_URL: An SMTP address/],
  ])('says in one sentence what is wrong with %s', async (_what, env, sentence) => {
    const odd = await Porch.start(env)
    expect(await odd.exited()).toBe(1)
    expect(odd.said).toMatch(sentence)
    expect(odd.said).not.toMatch(/\n\s+at /)
    rmSync(odd.data, { recursive: true, force: true })
  })

  it('refuses a database from a newer version, and an edited migration, and leaves them as they are', async () => {
    for (const [change, sentence] of [
      [`INSERT INTO migrations (number, name, digest, applied_at) VALUES (99, 'later', 'x', 0)`, /newer version of Keen Porch/],
      [`UPDATE migrations SET digest = 'other' WHERE number = 1`, /Migration 1 .*never be edited/],
    ] as const) {
      const { data } = copyFurnished()
      const db = new Sqlite(join(data, 'practice.db'))
      db.exec(change)
      db.close()
      const second = await Porch.start({}, data)
      expect(await second.exited()).toBe(1)
      expect(second.said).toMatch(sentence)
      expect(second.said).not.toMatch(/\n\s+at /)
      rmSync(data, { recursive: true, force: true })
    }
  })
})

it('stops both processes cleanly, keeps its keys and what visited in its last second, and takes up again where it was', async () => {
  const { porch: first, made: { pageId } } = await startFurnished()
  await first.do('POST', 'tags', { name: 'stays', note: '' })
  const keys = readFileSync(join(first.data, 'keys.json'), 'utf8')
  const children = first.children()
  for (let n = 0; n < 7; n++) await first.fetch('/practice/p/sheet-kit?utm_source=late', {
    headers: { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0' },
  })
  await first.stop({ keepData: true })
  expect(first.supervisor.exitCode).toBe(0)
  for (const pid of children) expect(existsSync(`/proc/${pid}`)).toBe(false)
  const second = await (await Porch.start({}, first.data)).ready()
  second.cookie = first.cookie
  expect(await second.do<{ name: string }[]>('GET', 'tags')).toContainEqual(expect.objectContaining({ name: 'stays' }))
  expect(await second.do<PageResults>('GET', `pages/${pageId}/results`)).toMatchObject({
    visits: 7, bySource: [{ says: 'late', visits: 7 }],
  })
  expect(readFileSync(join(first.data, 'keys.json'), 'utf8')).toBe(keys)
  await second.stop()
})
