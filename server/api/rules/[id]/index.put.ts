import { handle } from '#server/http'
import { ruleInput } from '#server/ruleSchemas'
import { saveRule } from '#usecases/know/rules'

export default handle({ body: ruleInput }, ({ house, id, body: { evenInCircle, ...rule } }) => saveRule(house, id(), rule, evenInCircle))
