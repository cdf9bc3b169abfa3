/** The keys that every signed address rests on are made once, whoever starts first. */
import { spawn } from 'node:child_process'
import { mkdirSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { expect, it } from 'vitest'
import { buildChild } from './killing'
import { temporaryFolder } from '../temporary'

it('processes that start at the same instant in an empty folder have the same keys', async () => {
  const file = await buildChild('keysChild')
  const running = Array.from({ length: 4 }, () => {
    const child = spawn(process.execPath, [file], { cwd: join(import.meta.dirname, '../..'), stdio: ['pipe', 'pipe', 'inherit'] })
    return { child, lines: createInterface({ input: child.stdout })[Symbol.asyncIterator]() }
  })
  for (const { lines } of running) expect((await lines.next()).value).toBe('ready')
  for (let round = 0; round < 60; round++) {
    const folder = join(temporaryFolder(), 'data')
    mkdirSync(folder)
    for (const { child } of running) child.stdin.write(`${folder}\n`)
    const keys = await Promise.all(running.map(async ({ lines }) => (await lines.next()).value as string))
    expect(keys[0]).toMatch(/^[0-9a-f]{64}$/)
    expect(new Set(keys).size).toBe(1)
    expect(readdirSync(folder)).toEqual(['keys.json'])
  }
  for (const { child } of running) child.stdin.end()
})
