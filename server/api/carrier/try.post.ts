/** Connects to the mail server of the live workspace and says what it answers; nothing is sent. */
import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { tryMailServer } from '#runtime/settings'
import { askIfInside } from '#server/inside'
import { smtpInput } from '#server/schemas'
import { smtpUrlOf } from '#server/smtpUrl'
import { InputProblem } from '#usecases/problem'
import { learnLetters } from '#usecases/settings/sending'
import { settingsView } from '#usecases/views/settings'

export default handle({ body: smtpInput }, async ({ context, body }) => {
  const url = openWorkspaces().settings.smtpUrl ?? smtpUrlOf(context, body.smtpUrl)
  if (!url) throw new InputProblem([{ field: 'smtpUrl', problem: 'Give an SMTP address first.' }])
  if (openWorkspaces().settings.smtpUrl === null) await askIfInside('smtpUrl', url, {
    kept: settingsView(context).smtpUrl, meant: body.insideMeant,
  })
  // Once live goes by this server, forms know at once whom it cannot reach.
  return { problem: await tryMailServer(url, takes => context.mode === 'live' && learnLetters(context, takes)) }
})
