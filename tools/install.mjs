/** Installs exactly the locked packages, if they are not there yet. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { PlainProblem, ROOT, digestOf, has, run, say, withProgress } from './say.mjs'

const STAMP = join(ROOT, 'node_modules', '.porch-installed')
const OLDEST_NODE = [20, 19]

export async function install() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor < OLDEST_NODE[1])) {
    throw new PlainProblem(`Keen Porch needs Node ${OLDEST_NODE.join('.')} or newer; this is ${process.versions.node}.`)
  }
  // Compiled parts fit one Node version only.
  const wanted = `${digestOf(['package-lock.json'])} ${process.versions.modules}`
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wanted) return

  say('Installing the packages, with their locked versions. The database is compiled on the way: this takes a few minutes.')
  const code = await withProgress(
    () => run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error']),
    20, seconds => say(`  still installing, ${seconds} seconds so far`))
  if (code !== 0) throw new PlainProblem(await whyNot())
  writeFileSync(STAMP, wanted)
  say('Installed.')
}

async function whyNot() {
  const missing = []
  for (const [command, what] of [['g++', 'a C++ compiler (g++)'], ['make', 'make'], ['python3', 'python3']]) {
    if (!(await has(command))) missing.push(what)
  }
  return missing.length > 0
    ? `The packages could not be installed: the database has to be compiled, and ${missing.join(' and ')} ${missing.length === 1 ? 'is' : 'are'} missing. On Debian: apt-get install build-essential python3`
    : 'The packages could not be installed; npm says above why. Without the package registry nothing can be installed.'
}
