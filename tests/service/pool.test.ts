/** Threads for slow questions: whatever one of them does, it ends, and the lane goes on. */
import { afterEach, expect, it } from 'vitest'
import { Pool } from '#server/work/pool'

const open: Pool[] = []
afterEach(async () => {
  for (const pool of open.splice(0)) await pool.close()
})
const pool = (more: Partial<ConstructorParameters<typeof Pool>[0]> = {}) => {
  const made = new Pool({ file: '../tests/service/threads.mjs', threads: 1, limitMs: 20_000, mostWaiting: 2, memoryMb: 32, ...more })
  open.push(made)
  return made
}

it('A2: a question that never ends is ended at its limit, is said so, and the next is answered', async () => {
  const one = pool({ limitMs: 500 })
  await expect(one.run('spin', null)).rejects.toMatchObject({ status: 503, message: expect.stringContaining('was ended') as string })
  expect(await one.run('echo', 'still here')).toBe('still here')
})

it('the start of a thread takes nothing from a question’s time', async () => {
  expect(await pool({ file: '../tests/service/slowThreads.mjs', limitMs: 500 }).run('echo', 'in time')).toBe('in time')
})

it('A2: a question that fills the memory is ended alone', async () => {
  const one = pool()
  await expect(one.run('fill', null)).rejects.toMatchObject({ status: 413 })
  expect(await one.run('echo', 'still here')).toBe('still here')
})

it('A2: no more wait than may, and what a question throws comes out as it is', async () => {
  const one = pool({ limitMs: 800 })
  const asked = ['spin', 'echo', 'echo', 'echo', 'echo'].map(name =>
    one.run(name, 'x').then(() => 'answered', (error: { message: string }) => error.message))
  // One runs out of its own time; those that waited for it do not, and two find no place to wait.
  const answers = await Promise.all(asked)
  expect([answers[0]!.includes('was ended'), ...answers.slice(1, 3)]).toEqual([true, 'answered', 'answered'])
  expect(answers.slice(3).every(answer => answer.startsWith('The server is busy'))).toBe(true)
  await expect(one.run('wrong', null)).rejects.toThrow('it is wrong')
})
