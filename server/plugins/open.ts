/** Opens the databases before the first request; what does not fit is said in one sentence, and the server ends. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { databaseTrouble, isPlainProblem } from '#runtime/problems'
import { isOnlyHere } from '#runtime/settings'
import { log, openWorkspaces } from '#server/workspaces'
import { countWaiting } from '#server/visits'

/** Tells the supervisor that starting again will not help (EX_CONFIG of sysexits.h). */
const WILL_NOT_HELP = 78

export default defineNitroPlugin((nitro) => {
  try {
    const { settings, owner } = openWorkspaces()
    log.info({ port: settings.port }, 'web server runs')
    // Whoever comes first chooses the password: where others could be first, it has to be whoever reads this.
    if (!owner.hasPassword() && !isOnlyHere(settings)) {
      process.stdout.write(`Choose your password at ${settings.baseUrl}/sign-in with the code ${owner.firstCode()}\n`)
    }
  }
  catch (error) {
    if (isPlainProblem(error)) {
      process.stderr.write(`${error.message}\n`)
      process.exit(WILL_NOT_HELP)
    }
    // A full disk or a folder that cannot be written to may be over at the next try.
    const trouble = databaseTrouble(error)
    if (!trouble) throw error
    process.stderr.write(`${trouble.sentence}\n`)
    process.exit(1)
  }
  nitro.hooks.hook('close', () => {
    countWaiting(true)
    openWorkspaces().close()
  })
})
