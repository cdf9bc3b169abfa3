import { handle } from '#server/http'
import { newPageInput } from '#server/pageSchemas'
import { createPage } from '#usecases/arrive/pages'

export default handle({ body: newPageInput }, ({ context, body }) => ({ id: createPage(context, body.name, body.beginning) }))
