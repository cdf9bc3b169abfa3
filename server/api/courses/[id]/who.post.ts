import { handle } from '#server/http'
import { whoInput } from '#server/courseSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: whoInput }, ({ event, context, id, body }) => inReader(event, context.mode, 'whoBehind', { courseId: id(), ...body }))
