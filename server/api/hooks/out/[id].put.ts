import { handle } from '#server/http'
import { hookOutInput } from '#server/ruleSchemas'
import { saveHookOut } from '#usecases/know/hooks'

export default handle({ body: hookOutInput }, ({ context, id, body }) => ({ id: saveHookOut(context, id(), body) }))
