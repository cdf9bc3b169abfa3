import { handle } from '#server/http'
import { rehearsalInput } from '#server/rehearsalSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: rehearsalInput }, ({ event, house, id, body }) => inReader(event, house.mode, 'rehearsal', { courseId: id(), readers: body.readers }))
