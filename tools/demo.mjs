/** `npm run demo`: the practice workspace of Saltmarsh Bindery, made if there is none; `-- --fresh` makes it anew. */
import { randomBytes } from 'node:crypto'
import { resolve } from 'node:path'
import { DEMO_MAKER, build } from './build.mjs'
import { install } from './install.mjs'
import { PlainProblem, main, run, say } from './say.mjs'
import { checkPort, listening, supervise } from './supervise.mjs'

/** Everybody who has read this can sign in with it: only where nobody elsewhere can try. */
const PASSWORD = 'bone folder'
const isOnlyHere = env => /^(localhost|127(\.\d+){3}|::1)$/.test(env.NITRO_HOST) && !Number(env.PORCH_TRUST_PROXY) && !env.PORCH_BASE_URL

await main(async () => {
  const unknown = process.argv.slice(2).filter(argument => argument !== '--fresh')
  if (unknown.length > 0) throw new PlainProblem(`The demo knows --fresh and nothing else; it was given ${unknown.join(' ')}.`)
  const heard = listening(process.env)
  const { PORT } = heard
  await checkPort(PORT, heard.NITRO_HOST)
  await install()
  await build()
  const env = {
    ...heard, PORCH_DATA: resolve(heard.PORCH_DATA || 'var/demo'), PORCH_LOG: heard.PORCH_LOG || 'warn',
    PORCH_PASSWORD: heard.PORCH_PASSWORD || (isOnlyHere(heard) ? PASSWORD : randomBytes(9).toString('base64url')),
  }
  const fresh = process.argv.includes('--fresh') ? ['--fresh'] : []
  if (await run(process.execPath, ['--enable-source-maps', DEMO_MAKER, ...fresh], { env }) !== 0) throw new PlainProblem(
    'The practice workspace could not be made.'
  )
  await supervise(env, () => {
    say('')
    say(`  Saltmarsh Bindery is at  http://localhost:${PORT}`)
    say(`  Sign in with             ${env.PORCH_PASSWORD}`)
    say('  Nothing leaves this machine. Ctrl-C stops it.')
    say('')
  })
})
