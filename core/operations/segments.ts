/** Segments, and counting who fits a condition. */
import type { SegmentInput } from '#core/audience/segment'
import type { AudienceMore, AudienceQuery, AudienceView, ConditionParts, SegmentLine } from '#core/views/audience'
import type { Nothing } from './operation'

export interface SegmentsOperations {
  'GET /segments': { answer: SegmentLine[] }
  'POST /segments': { body: SegmentInput, answer: { id: number } }
  'PUT /segments/:id': { body: SegmentInput, answer: { id: number } }
  'DELETE /segments/:id': { answer: Nothing }
  'POST /audience': { body: AudienceQuery, answer: AudienceView }
  'POST /audience/more': { body: AudienceQuery, answer: AudienceMore }
  'GET /audience/parts': { answer: ConditionParts }
}
