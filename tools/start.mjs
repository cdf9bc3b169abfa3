/** `npm start`: the application on its own data folder, with settings from the environment (docs/settings.md). */
import { build } from './build.mjs'
import { install } from './install.mjs'
import { main, say } from './say.mjs'
import { checkPort, listening, supervise } from './supervise.mjs'

await main(async () => {
  const env = listening(process.env)
  await checkPort(env.PORT, env.NITRO_HOST)
  await install()
  await build()
  await supervise(env, () => {
    say(`Keen Porch runs at http://localhost:${env.PORT}. Ctrl-C stops it.`)
  })
})
