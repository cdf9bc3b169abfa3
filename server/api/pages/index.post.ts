import { handle } from '#server/http'
import { newPageInput } from '#server/pageSchemas'
import { createPage } from '#usecases/arrive/pages'

export default handle({ body: newPageInput }, ({ house, body }) => ({ id: createPage(house, body.name, body.beginning) }))
