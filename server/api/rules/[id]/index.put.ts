import { handle } from '#server/http'
import { ruleInput } from '#server/ruleSchemas'
import { saveRule } from '#usecases/know/rules'

export default handle({ body: ruleInput }, ({ context, id, body: { evenInCircle, ...rule } }) => saveRule(context, id(), rule, evenInCircle))
