/** `npm run demo`: the practice workspace of Saltmarsh Bindery, made if there is none; `-- --fresh` makes it anew. */
import { resolve } from 'node:path'
import { DEMO_MAKER, build } from './build.mjs'
import { install } from './install.mjs'
import { PlainProblem, main, run, say } from './say.mjs'
import { checkPort, supervise } from './supervise.mjs'

const PASSWORD = 'bone folder'

await main(async () => {
  const unknown = process.argv.slice(2).filter(argument => argument !== '--fresh')
  if (unknown.length > 0) throw new PlainProblem(`The demo knows --fresh and nothing else; it was given ${unknown.join(' ')}.`)
  const PORT = process.env.PORT || '3000'
  await checkPort(PORT)
  await install()
  await build()
  const env = { ...process.env, PORT, NITRO_PORT: PORT, PORCH_DATA: resolve(process.env.PORCH_DATA || 'var/demo'), PORCH_PASSWORD: process.env.PORCH_PASSWORD || PASSWORD, PORCH_LOG: process.env.PORCH_LOG || 'warn' }
  const fresh = process.argv.includes('--fresh') ? ['--fresh'] : []
  if (await run(process.execPath, ['--enable-source-maps', DEMO_MAKER, ...fresh], { env }) !== 0) throw new PlainProblem('The practice workspace could not be made.')
  await supervise(env, () => {
    say('')
    say(`  Saltmarsh Bindery is at  http://localhost:${PORT}`)
    say(`  Sign in with             ${env.PORCH_PASSWORD}`)
    say('  Nothing leaves this machine. Ctrl-C stops it.')
    say('')
  })
})
