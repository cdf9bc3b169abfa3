import { handle } from '#server/http'
import { personInput } from '#server/courseSchemas'
import { letIn } from '#usecases/courses/people'

export default handle({ body: personInput }, ({ house, id, body }) => ({ outcome: letIn(house, id(), body.personId) }))
