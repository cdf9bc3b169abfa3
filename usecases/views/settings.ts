/** What the settings screen shows of the workspace itself. */
import type { SettingsView } from '#core/views/settings'
import { slowedTo, stoppedDomains } from '#data/carrier'
import { pausingDomains } from '#data/domainPace'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function settingsView(context: WorkspaceContext): Omit<SettingsView, 'smtpFromEnvironment' | 'baseUrl' | 'hasLive'> {
  const { key: _, createdAt: __, ...settings } = workspaceOf(context.db)
  return {
    ...settings, stoppedDomains: stoppedDomains(context.db), pausingDomains: pausingDomains(context.db, context.clock.now()),
    slowed: slowedTo(context.db),
  }
}
