import { handle } from '#server/http'
import { peopleInput } from '#server/schemas'
import { deleteTag } from '#usecases/know/endMarks'

export default handle({ body: peopleInput }, ({ house, id, body }) => deleteTag(house, id(), body.people))
