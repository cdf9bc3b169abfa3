import { handle } from '#server/http'
import { knownInput } from '#server/peopleSchemas'
import { removeField } from '#usecases/know/fields'

export default handle({ body: knownInput }, ({ context, id, body }) => removeField(context, id(), body.known))
