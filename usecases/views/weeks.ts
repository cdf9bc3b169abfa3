/** The last twelve weeks of each thing of a kind. */
import { addDays, instantOf, localOf } from '#core/time/zone'
import { WEEKS, type WeeklyKind, type WeeksView } from '#core/views/weeks'
import { readTogether } from '#data/connection'
import { weeksOf } from '#data/weeks'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function weeksView({ db, clock }: WorkspaceContext, kind: WeeklyKind): WeeksView {
  return readTogether(db, () => {
    const { zone } = workspaceOf(db)
    const now = clock.now()
    const lastDay = localOf(now, zone).date
    const firstDays = Array.from({ length: WEEKS }, (_, n) => addDays(lastDay, 1 - 7 * (WEEKS - n)))
    const begin = firstDays.map(day => instantOf(day, '00:00', zone))
    const counts = weeksOf(db, kind, { begin, to: now, firstDay: firstDays[0]!, lastDay })
    return { firstDays, rows: [...counts].map(([id, weeks]) => ({ id, counts: weeks })) }
  })
}
