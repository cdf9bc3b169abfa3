import { handle } from '#server/http'
import { nameInput } from '#server/schemas'
import { nameSource } from '#usecases/arrive/sources'

export default handle({ body: nameInput }, ({ house, body }) => ({ id: nameSource(house, body.name) }))
