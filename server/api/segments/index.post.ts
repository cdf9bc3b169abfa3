import { handle } from '#server/http'
import { segmentInput } from '#server/peopleSchemas'
import { saveSegment } from '#usecases/know/segments'

export default handle({ body: segmentInput }, ({ context, body }) => ({ id: saveSegment(context, null, body) }))
