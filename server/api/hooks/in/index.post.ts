import { handle } from '#server/http'
import { hookInInput } from '#server/ruleSchemas'
import { saveHookIn } from '#usecases/know/hooks'

export default handle({ body: hookInInput }, ({ house, body }) => ({ id: saveHookIn(house, null, body) }))
