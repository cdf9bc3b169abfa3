/** What counts for the timing of everybody. */
import type { Facts } from '#core/sequence/journey'
import type { Database } from '#data/connection'
import { sendingHours, workspaceOf } from '#data/workspace'

export const workspaceFacts = (db: Database): Pick<Facts, 'workspaceZone' | 'hours'> => ({
  workspaceZone: workspaceOf(db).zone, hours: sendingHours(db),
})
