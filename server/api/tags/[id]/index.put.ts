import { handle } from '#server/http'
import { tagChange } from '#server/schemas'
import { saveTag } from '#usecases/know/listsAndTags'

export default handle({ body: tagChange }, ({ context, id, body }) => ({ id: saveTag(context, id(), body) }))
