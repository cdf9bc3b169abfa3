/** The last twelve weeks of each thing of a kind. */
import { WEEK_MS, WEEKS, type WeeklyKind, type WeeksView } from '#core/views/weeks'
import { weeksOf } from '#data/weeks'
import type { WorkspaceContext } from '../context'

export function weeksView({ db, clock }: WorkspaceContext, kind: WeeklyKind): WeeksView {
  const now = clock.now()
  return { from: now - WEEKS * WEEK_MS, rows: [...weeksOf(db, kind, now)].map(([id, counts]) => ({ id, counts })) }
}
