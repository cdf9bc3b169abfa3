/** What the settings screen shows. */
import { workspaceOf } from '#data/workspace'
import type { WorkspaceRow } from '#data/workspace'
import type { House } from '../house'

export type SettingsView = Omit<WorkspaceRow, 'key' | 'createdAt'>

export function settingsView(house: House): SettingsView {
  const { key: _, createdAt: __, ...settings } = workspaceOf(house.db)
  return settings
}
