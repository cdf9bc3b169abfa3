/** `npm run types`: each room is checked with what it may know of: core without DOM and Node, the app with Vue. */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { NATIVE, faultsOfComponents } from './components.mjs'
import { PlainProblem, ROOT, bin, main, run, say } from './say.mjs'

const APP = join(ROOT, 'app', 'tsconfig.json')
const runs = async (program, project) => await run(process.execPath, [program, '-p', project]) === 0
const CHECKS = {
  'app': async () => (await faultsOfComponents(APP, join(ROOT, '.nuxt', 'components'))).length === 0 || runs(bin('vue-tsc'), APP),
  'core': () => runs(NATIVE, 'core/tsconfig.json'),
  'server side and tests': () => runs(NATIVE, 'tsconfig.node.json'),
}

await main(async () => {
  // Nuxt writes the types of its own parts.
  if (!existsSync(join(ROOT, '.nuxt', 'nuxt.d.ts')) && await run(bin('nuxt'), ['prepare', '--logLevel', 'silent']) !== 0) {
    throw new PlainProblem('Nuxt could not prepare its types.')
  }
  const failed = []
  for (const [name, fits] of Object.entries(CHECKS)) if (!await fits()) failed.push(name)
  if (failed.length > 0) throw new PlainProblem(`Types do not fit in: ${failed.join(', ')}.`)
  say('Types fit.')
})
