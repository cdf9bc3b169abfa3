/** The mail server of a workspace, on screens: its password goes in and never out. */
import type { SettingsView } from '#core/views/settings'
import { meantSmtpUrl, SettingProblem, shownSmtpUrl, smtpUrlProblem } from '#runtime/settings'
import type { WorkspaceContext } from '#usecases/context'
import { InputProblem } from '#usecases/problem'
import { settingsView } from '#usecases/views/settings'
import { openWorkspaces } from './workspaces'

export function shownSettings(context: WorkspaceContext): SettingsView {
  const [settings, workspaces] = [settingsView(context), openWorkspaces()]
  return {
    ...settings, smtpUrl: shownSmtpUrl(settings.smtpUrl), smtpFromEnvironment: workspaces.settings.smtpUrl !== null,
    baseUrl: context.baseUrl, hasLive: workspaces.hasLive,
  }
}

/** What was typed, with the password that is kept where it was left hidden. Throws an {@link InputProblem}. */
export const smtpUrlOf = (context: WorkspaceContext, typed: string | null): string | null =>
  smtpUrlIn('smtpUrl', typed, settingsView(context).smtpUrl)

/** The same of one that stands elsewhere. */
export function smtpUrlIn(field: string, typed: string | null, kept: string | null): string | null {
  const refuse = (problem: string) => new InputProblem([{ field, problem }])
  try {
    const url = meantSmtpUrl(typed, kept)
    const problem = url ? smtpUrlProblem(url) : null
    if (problem) throw refuse(problem)
    return url
  }
  catch (error) {
    throw error instanceof SettingProblem ? refuse(error.message) : error
  }
}
