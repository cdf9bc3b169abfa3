/** The saved segments with their numbers, as last looked at. */
import { sayCondition } from '#core/audience/say'
import { segmentsIn } from '#core/audience/segment'
import { DAY } from '#core/time/zone'
import type { SegmentLine } from '#core/views/audience'
import { readTogether } from '#data/connection'
import { movesOfSegment } from '#data/events'
import { allSegments, insideCounts } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { namesOf } from '../inner/names'

const STRETCH = 30 * DAY

export function segmentLines(context: WorkspaceContext): SegmentLine[] {
  const { db } = context
  return readTogether(db, () => {
    const now = context.clock.now()
    const segments = allSegments(db)
    const names = namesOf(db)
    const counts = insideCounts(db)
    return segments.map(({ id, name, note, code, condition, filled, changedAt }) => {
      const countedSince = Math.max(now - STRETCH, changedAt)
      const { entered, left } = movesOfSegment(db, id, countedSince)
      return {
        id, name, note, code, condition, says: sayCondition(condition, names), people: filled ? counts.get(id) ?? 0 : null,
        entered30: entered, left30: left, countedSince,
        usedBy: segments.filter(other => segmentsIn(other.condition).includes(id)).map(other => ({ id: other.id, name: other.name })),
      }
    })
  })
}
