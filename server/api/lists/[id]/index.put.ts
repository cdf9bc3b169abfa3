import { handle } from '#server/http'
import { listInput } from '#server/schemas'
import { saveList } from '#usecases/know/listsAndTags'

export default handle({ body: listInput }, ({ context, id, body }) => ({ id: saveList(context, id(), body) }))
