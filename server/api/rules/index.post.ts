import { handle } from '#server/http'
import { ruleInput } from '#server/ruleSchemas'
import { saveRule } from '#usecases/know/rules'

export default handle({ body: ruleInput }, ({ context, body: { evenInCircle, ...rule } }) => saveRule(context, null, rule, evenInCircle))
