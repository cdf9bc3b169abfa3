import { handle } from '#server/http'
import { moveInput } from '#server/courseSchemas'
import { movePerson } from '#usecases/courses/people'

export default handle({ body: moveInput }, ({ context, id, body }) => movePerson(context, id(), body.toId))
