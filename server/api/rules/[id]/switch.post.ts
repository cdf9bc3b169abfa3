import { handle } from '#server/http'
import { switchInput } from '#server/ruleSchemas'
import { switchRule } from '#usecases/know/rules'

export default handle({ body: switchInput }, ({ house, id, body }) => switchRule(house, id(), body.on))
