/** `npm run types`: each room is checked with what it may know of: core without DOM and Node, the app with Vue. */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { PlainProblem, ROOT, bin, main, run, say } from './say.mjs'

/**
 * Two rows of checks, one beside the other. The compiler that is a native program takes a fifth of the time; what understands Vue, and the
 * rules of lint, still need the one written in JavaScript. Each of the two brings a program of the name `tsc`, so it is named by its path.
 */
const NATIVE = join(ROOT, 'node_modules', 'typescript-native', 'bin', 'tsc')
const CHECKS = [
  [['app', bin('vue-tsc'), 'app/tsconfig.json']],
  [['core', NATIVE, 'core/tsconfig.json'], ['server side and tests', NATIVE, 'tsconfig.node.json']],
]

await main(async () => {
  // Nuxt writes the types of its own parts.
  if (!existsSync(join(ROOT, '.nuxt', 'nuxt.d.ts')) && await run(bin('nuxt'), ['prepare', '--logLevel', 'silent']) !== 0) {
    throw new PlainProblem('Nuxt could not prepare its types.')
  }
  const failed = []
  await Promise.all(CHECKS.map(async (row) => {
    for (const [name, program, project] of row) {
      if (await run(process.execPath, [program, '-p', project]) !== 0) failed.push(name)
    }
  }))
  if (failed.length > 0) throw new PlainProblem(`Types do not fit in: ${failed.join(', ')}.`)
  say('Types fit.')
})
