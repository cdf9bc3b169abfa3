import { handle } from '#server/http'
import { runInput } from '#server/ruleSchemas'
import { runRule } from '#usecases/know/rules'

export default handle({ body: runInput }, ({ house, id, body }) => ({ id: runRule(house, id(), body.people) }))
