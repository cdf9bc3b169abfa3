import { handle } from '#server/http'
import { segmentInput } from '#server/peopleSchemas'
import { saveSegment } from '#usecases/know/segments'

export default handle({ body: segmentInput }, ({ house, id, body }) => ({ id: saveSegment(house, id(), body) }))
