import { handle } from '#server/http'
import { personInput } from '#server/courseSchemas'
import { letIn } from '#usecases/courses/people'

export default handle({ body: personInput }, ({ context, id, body }) => ({ outcome: letIn(context, id(), body.personId) }))
