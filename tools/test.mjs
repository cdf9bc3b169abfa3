/** `npm test`: everything, from a fresh clone to the last browser test. Nothing is left out silently. */
import { mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs'
import { join, relative } from 'node:path'
import { build } from './build.mjs'
import { chromium } from './chromium.mjs'
import { install } from './install.mjs'
import { ROOT, bin, main, run, say } from './say.mjs'

const RESULTS = join(ROOT, 'test-results')
const tally = { passed: 0, failed: 0 }
/** What failed, by name: said once more at the end, where it is not far up in a long output. */
const failures = []

function count(passed, failed) {
  tally.passed += passed
  tally.failed += failed
}

/** A part of the run. One that goes on beside others says what it has to say at its end, in one piece. */
async function part(name, command, args, isBeside) {
  if (!isBeside) {
    say(`\n== ${name}`)
    return run(command, args)
  }
  const heard = []
  const code = await run(command, args, { hear: chunk => heard.push(chunk) })
  say(`\n== ${name}\n${Buffer.concat(heard)}`)
  return code
}

/** One check that passes or fails as a whole. */
async function check(name, command, args) {
  const passed = await part(name, command, args, true) === 0
  count(passed ? 1 : 0, passed ? 0 : 1)
  if (!passed) failures.push(name)
}

/** A test runner that writes what it counted; one that wrote nothing has failed. */
async function runner(name, command, args, file, read, isBeside = false) {
  const code = await part(name, command, args, isBeside)
  try {
    const { passed, failed, names } = read(JSON.parse(readFileSync(join(RESULTS, file), 'utf8')))
    const isOdd = (code !== 0 && failed === 0) || passed + failed === 0
    count(passed, failed + (isOdd ? 1 : 0))
    failures.push(...names.map(each => `${name}: ${each}`))
    if (isOdd) failures.push(`${name}: ended with ${code}, though ${passed} passed and none failed`)
  }
  catch (error) {
    count(0, 1)
    failures.push(`${name}: ${error.message}`)
  }
}

const failedOfFile = file => [
  ...file.assertionResults.filter(each => each.status === 'failed')
    .map(each => `${each.fullName}\n  ${each.failureMessages.join('\n').slice(0, 1000)}`),
  // A file that could not be read at all has no tests that failed.
  ...file.status === 'failed' && file.assertionResults.every(each => each.status !== 'failed') ? [file.message] : [],
].map(each => `${relative(ROOT, file.name)}: ${each}`)

const vitest = (name, project, isBeside) => runner(name, bin('vitest'), [
  'run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=test-results/${project}.json`,
], `${project}.json`, ({ numPassedTests, numFailedTests, numFailedTestSuites, testResults }) => ({
  passed: numPassedTests,
  failed: Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0),
  names: testResults.flatMap(failedOfFile),
}), isBeside)

const failedOfSuite = suite => [
  ...suite.specs.filter(spec => !spec.ok).map(spec => `${suite.file}: ${spec.title}`), ...(suite.suites ?? []).flatMap(failedOfSuite),
]

const SHARED_MEMORY = '/dev/shm'
const ENOUGH_BYTES = 4e9

/**
 * Puts temporary files in memory if there is room, because hundreds of databases would wait for the disk at every commit. Returns the
 * clean-up.
 */
function workInMemory() {
  try {
    const { bavail, bsize } = statfsSync(SHARED_MEMORY)
    if (bavail * bsize < ENOUGH_BYTES) return () => undefined
    const folder = mkdtempSync(join(SHARED_MEMORY, 'porch-tests-'))
    process.env.TMPDIR = folder
    return () => rmSync(folder, { recursive: true, force: true })
  }
  catch {
    return () => undefined
  }
}

await main(async () => {
  await Promise.all([install(), chromium()])
  rmSync(RESULTS, { recursive: true, force: true })
  const leaveMemory = workInMemory()
  // What waits, or is the last of its kind, leaves a processor idle for what stands beside it. The build takes away what types are read of.
  await Promise.all([
    vitest('Unit, service and reference tests', 'source'),
    Promise.all([
      check('Lint of scripts', bin('oxlint'), ['--deny-warnings']), check('Lint of components', bin('eslint'), ['app', '--max-warnings=0']),
      check('Types', process.execPath, ['tools/types.mjs']), check('Words', process.execPath, ['tools/words.mjs']),
    ]).then(build),
  ])
  await Promise.all([
    vitest('Tests of the built application', 'built', true),
    runner('Browser tests', bin('playwright'), ['test'], 'browser.json', ({ stats, suites }) => ({
      passed: stats.expected, failed: stats.unexpected + stats.flaky + stats.skipped, names: suites.flatMap(failedOfSuite),
    })),
  ])
  leaveMemory()
  for (const each of failures) say(`\nFailed: ${each}`)
  say(`\n${tally.passed} passed, ${tally.failed} failed`)
  if (tally.failed > 0) process.exitCode = 1
})
