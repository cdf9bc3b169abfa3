import { handle } from '#server/http'
import { hookOutInput } from '#server/ruleSchemas'
import { saveHookOut } from '#usecases/know/hooks'

export default handle({ body: hookOutInput }, ({ context, body }) => ({ id: saveHookOut(context, null, body) }))
