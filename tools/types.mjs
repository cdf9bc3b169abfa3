/** `npm run types`: each room is checked with what it may know of: core without DOM and Node, the app with Vue. */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { PlainProblem, ROOT, bin, main, run, say } from './say.mjs'

/** Two rows of checks, one beside the other: the app takes as long as the rest together. */
const CHECKS = [
  [['app', 'vue-tsc', 'app/tsconfig.json']],
  [['core', 'tsc', 'core/tsconfig.json'], ['server side and tests', 'tsc', 'tsconfig.node.json']],
]

await main(async () => {
  // Nuxt writes the types of its own parts.
  if (!existsSync(join(ROOT, '.nuxt', 'nuxt.d.ts')) && await run(bin('nuxt'), ['prepare', '--logLevel', 'silent']) !== 0) {
    throw new PlainProblem('Nuxt could not prepare its types.')
  }
  const failed = []
  await Promise.all(CHECKS.map(async (row) => {
    for (const [name, program, project] of row) {
      if (await run(bin(program), ['-p', project]) !== 0) failed.push(name)
    }
  }))
  if (failed.length > 0) throw new PlainProblem(`Types do not fit in: ${failed.join(', ')}.`)
  say('Types fit.')
})
