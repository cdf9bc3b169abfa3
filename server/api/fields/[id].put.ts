import { handle } from '#server/http'
import { fieldInput } from '#server/peopleSchemas'
import { saveField } from '#usecases/know/fields'

export default handle({ body: fieldInput }, ({ context, id, body }) => ({ id: saveField(context, id(), body) }))
