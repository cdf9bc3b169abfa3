import { handle } from '#server/http'
import { segmentInput } from '#server/peopleSchemas'
import { saveSegment } from '#usecases/know/segments'

export default handle({ body: segmentInput }, ({ context, id, body }) => ({ id: saveSegment(context, id(), body) }))
