/** `npm start`: the application on its own data folder, with settings from the environment (docs/settings.md). */
import { build } from './build.mjs'
import { install } from './install.mjs'
import { main, say } from './say.mjs'
import { checkPort, supervise } from './supervise.mjs'

await main(async () => {
  const PORT = process.env.PORT || '3000'
  await checkPort(PORT)
  await install()
  await build()
  await supervise({ ...process.env, PORT, NITRO_PORT: PORT }, () => {
    say(`Keen Porch runs at http://localhost:${PORT}. Ctrl-C stops it.`)
  })
})
