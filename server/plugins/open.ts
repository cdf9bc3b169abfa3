/** Opens the databases before the first request; what does not fit is said in one sentence, and the server ends. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { isPlainProblem } from '#runtime/problems'
import { log, openHouses } from '#server/houses'
import { countWaiting } from '#server/visits'

/** Tells the supervisor that starting again will not help (EX_CONFIG of sysexits.h). */
const WILL_NOT_HELP = 78

export default defineNitroPlugin((nitro) => {
  try {
    const { settings } = openHouses()
    log.info({ port: settings.port }, 'web server runs')
  }
  catch (error) {
    if (!isPlainProblem(error)) throw error
    process.stderr.write(`${error.message}\n`)
    process.exit(WILL_NOT_HELP)
  }
  nitro.hooks.hook('close', () => {
    countWaiting(true)
    openHouses().close()
  })
})
