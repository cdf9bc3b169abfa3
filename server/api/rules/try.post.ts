import { handle } from '#server/http'
import { tryInput } from '#server/ruleSchemas'
import { tryRules } from '#usecases/know/tryRule'

export default handle({ body: tryInput }, ({ context, body }) => tryRules(context, body))
