/**
 * `npm run soak`: what takes long. The source tests with their full numbers (kills by the hundred, ten thousand enrolments, whole imports,
 * hundreds of invented lives) and fresh seeds for what is drawn; then the whole of `npm test` beside two busy loops. It prints its figures
 * and its seed: what it finds becomes an example in the test.
 */
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ROOT, bin, main, run, say } from './say.mjs'

/** However long it takes, nothing of it stays behind. */
const LONGEST_MS = 4 * 3_600_000

function busyLoop() {
  return spawn(process.execPath, ['-e', `setTimeout(() => process.exit(), ${LONGEST_MS}); (function turn() { const until = Date.now() + 50; while (Date.now() < until); setImmediate(turn) })()`], { stdio: 'ignore' })
}

await main(async () => {
  const seed = process.argv[2] ?? String(Date.now() % 2 ** 31)
  say(`Soaking with the seed ${seed}; \`npm run soak -- ${seed}\` draws the same again.`)
  process.env.PORCH_SOAK = '1'
  process.env.PORCH_SEED = seed
  const soaked = await run(bin('vitest'), ['run', '--project', 'source', '--testTimeout', '1800000'])
  delete process.env.PORCH_SOAK
  delete process.env.PORCH_SEED
  say('\n== Everything once more, beside two busy loops')
  const loops = [busyLoop(), busyLoop()]
  const beside = await run(process.execPath, [join(ROOT, 'tools', 'test.mjs')])
  for (const loop of loops) loop.kill()
  say(`\nSoaked with the seed ${seed}: ${soaked === 0 ? 'nothing found' : 'something was found'}; beside two busy loops: ${beside === 0 ? 'all passed' : 'not all passed'}.`)
  if (soaked !== 0 || beside !== 0) process.exitCode = 1
})
