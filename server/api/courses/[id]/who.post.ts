import { handle } from '#server/http'
import { whoInput } from '#server/courseSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: whoInput }, ({ event, house, id, body }) => inReader(event, house.mode, 'whoBehind', { courseId: id(), ...body }))
