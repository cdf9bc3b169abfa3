/** `npm test`: everything, from a fresh clone to the last browser test. Nothing is left out silently. */
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { build } from './build.mjs'
import { chromium } from './chromium.mjs'
import { install } from './install.mjs'
import { ROOT, bin, main, run, say } from './say.mjs'

const RESULTS = join(ROOT, 'test-results')
const tally = { passed: 0, failed: 0 }

function count(passed, failed) {
  tally.passed += passed
  tally.failed += failed
}

/** One check that passes or fails as a whole. */
async function check(name, command, args) {
  say(`\n== ${name}`)
  const passed = await run(command, args) === 0
  count(passed ? 1 : 0, passed ? 0 : 1)
}

/** A test runner that writes what it counted; one that wrote nothing has failed. */
async function runner(name, command, args, file, read) {
  say(`\n== ${name}`)
  const code = await run(command, args)
  try {
    const { passed, failed } = read(JSON.parse(readFileSync(join(RESULTS, file), 'utf8')))
    count(passed, failed + (code !== 0 && failed === 0 ? 1 : 0))
    if (passed + failed === 0) count(0, 1)
  }
  catch {
    count(0, 1)
  }
}

const vitest = (name, project) => runner(name, bin('vitest'), ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=test-results/${project}.json`], `${project}.json`,
  ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
    passed: numPassedTests, failed: Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0),
  }))

await main(async () => {
  await install()
  await chromium()
  rmSync(RESULTS, { recursive: true, force: true })
  // Neither writes what the other reads, and each keeps one processor busy.
  await Promise.all([check('Lint', bin('eslint'), ['.', '--max-warnings=0']), check('Types', process.execPath, ['tools/types.mjs'])])
  // The last files of the tests leave a processor idle, which builds meanwhile.
  await Promise.all([vitest('Unit, service and reference tests', 'source'), build()])
  await vitest('Tests of the built application', 'built')
  await runner('Browser tests', bin('playwright'), ['test'], 'browser.json', ({ stats }) => {
    return { passed: stats.expected, failed: stats.unexpected + stats.flaky + stats.skipped }
  })
  say(`\n${tally.passed} passed, ${tally.failed} failed`)
  if (tally.failed > 0) process.exitCode = 1
})
