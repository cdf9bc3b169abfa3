/** Segments, and whom a condition fits. */
import type { SegmentsOperations } from '#core/operations/segments'
import { handle, type Operations } from '../http'
import { audienceQuery, segmentInput } from '../peopleSchemas'
import { inReader } from '../reader/index'
import { removeSegment, saveSegment } from '#usecases/know/segments'
import { segmentLines } from '#usecases/views/segments'

export const segments: Operations<SegmentsOperations> = {
  'GET /segments': handle({}, ({ context }) => segmentLines(context)),
  'POST /segments': handle({ body: segmentInput }, ({ context, body }) => ({ id: saveSegment(context, null, body) })),
  'PUT /segments/:id': handle({ body: segmentInput }, ({ context, id, body }) => ({ id: saveSegment(context, id(), body) })),
  'DELETE /segments/:id': handle({}, ({ context, id }) => removeSegment(context, id())),
  'POST /audience': handle({ body: audienceQuery }, ({ event, context, body }) => inReader(event, context.mode, 'audience', body)),
  'POST /audience/more': handle({ body: audienceQuery }, ({ event, context, body }) => inReader(event, context.mode, 'audienceMore', body)),
  /** Everything a condition can be about, to choose from. */
  'GET /audience/parts': handle({}, ({ event, context }) => inReader(event, context.mode, 'conditionParts')),
}
