/** What the settings screen shows of the workspace itself. */
import type { SettingsView } from '#core/views/settings'
import { slowedTo, stoppedDomains } from '#data/carrier'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'

export function settingsView(house: House): Omit<SettingsView, 'smtpFromEnvironment' | 'baseUrl' | 'hasLive'> {
  const { key: _, createdAt: __, ...settings } = workspaceOf(house.db)
  return { ...settings, stoppedDomains: stoppedDomains(house.db), slowed: slowedTo(house.db) }
}
