import { handle } from '#server/http'
import { rehearsalInput } from '#server/rehearsalSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: rehearsalInput }, ({ event, context, id, body }) => inReader(event, context.mode, 'rehearsal', { courseId: id(), readers: body.readers }))
