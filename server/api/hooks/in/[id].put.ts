import { handle } from '#server/http'
import { hookInInput } from '#server/ruleSchemas'
import { saveHookIn } from '#usecases/know/hooks'

export default handle({ body: hookInInput }, ({ context, id, body }) => ({ id: saveHookIn(context, id(), body) }))
