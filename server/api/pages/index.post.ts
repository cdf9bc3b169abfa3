import { handle } from '#server/http'
import { nameInput } from '#server/schemas'
import { createPage } from '#usecases/arrive/pages'

export default handle({ body: nameInput }, ({ house, body }) => ({ id: createPage(house, body.name) }))
