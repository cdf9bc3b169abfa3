import { handle } from '#server/http'
import { peopleInput } from '#server/schemas'
import { deleteList } from '#usecases/know/endMarks'

export default handle({ body: peopleInput }, ({ context, id, body }) => deleteList(context, id(), body.people))
