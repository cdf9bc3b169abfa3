import { handle } from '#server/http'
import { tagInput } from '#server/schemas'
import { saveTag } from '#usecases/know/listsAndTags'

export default handle({ body: tagInput }, ({ context, body }) => ({ id: saveTag(context, null, body) }))
