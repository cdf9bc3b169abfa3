import { handle } from '#server/http'
import { peopleInput } from '#server/schemas'
import { deleteTag } from '#usecases/know/endMarks'

export default handle({ body: peopleInput }, ({ context, id, body }) => deleteTag(context, id(), body.people))
