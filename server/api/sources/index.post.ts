import { handle } from '#server/http'
import { nameInput } from '#server/schemas'
import { nameSource } from '#usecases/arrive/sources'

export default handle({ body: nameInput }, ({ context, body }) => ({ id: nameSource(context, body.name) }))
