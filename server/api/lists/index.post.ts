import { handle } from '#server/http'
import { listInput } from '#server/schemas'
import { saveList } from '#usecases/know/listsAndTags'

export default handle({ body: listInput }, ({ context, body }) => ({ id: saveList(context, null, body) }))
