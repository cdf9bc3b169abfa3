import { handle } from '#server/http'
import { linkInput } from '#server/ruleSchemas'
import { saveLink } from '#usecases/know/links'

export default handle({ body: linkInput }, ({ context, body }) => ({ id: saveLink(context, null, body) }))
