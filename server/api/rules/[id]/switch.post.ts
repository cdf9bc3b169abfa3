import { handle } from '#server/http'
import { switchInput } from '#server/ruleSchemas'
import { switchRule } from '#usecases/know/rules'

export default handle({ body: switchInput }, ({ context, id, body }) => switchRule(context, id(), body.on))
