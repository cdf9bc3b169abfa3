import { handle } from '#server/http'
import { fieldInput } from '#server/peopleSchemas'
import { saveField } from '#usecases/know/fields'

export default handle({ body: fieldInput }, ({ house, id, body }) => ({ id: saveField(house, id(), body) }))
