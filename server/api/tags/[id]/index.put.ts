import { handle } from '#server/http'
import { tagChange } from '#server/schemas'
import { saveTag } from '#usecases/know/listsAndTags'

export default handle({ body: tagChange }, ({ house, id, body }) => ({ id: saveTag(house, id(), body) }))
