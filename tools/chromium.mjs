/** The browser of the browser tests: Debian's Chromium, installed where that is possible. */
import { existsSync } from 'node:fs'
import { PlainProblem, has, run, say } from './say.mjs'

const PATH = process.env.PORCH_CHROMIUM || '/usr/bin/chromium'

export async function chromium() {
  if (existsSync(PATH)) return
  const root = process.getuid?.() === 0
  if (process.env.PORCH_CHROMIUM || !root || !(await has('apt-get'))) {
    throw new PlainProblem(
      `The browser tests need Chromium at ${PATH}. On Debian: sudo apt-get install chromium. Elsewhere: set PORCH_CHROMIUM to its path.`
    )
  }
  say('Installing Chromium for the browser tests, about a minute.')
  const quiet = { quiet: true, env: { DEBIAN_FRONTEND: 'noninteractive' } }
  await run('apt-get', ['update'], quiet)
  const code = await run('apt-get', ['install', '-y', '--no-install-recommends', 'chromium'], quiet)
  if (code !== 0 || !existsSync(PATH)) throw new PlainProblem(
    'Chromium could not be installed with apt-get. Run “apt-get install chromium” to see why.'
  )
}
