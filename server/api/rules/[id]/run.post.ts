import { handle } from '#server/http'
import { runInput } from '#server/ruleSchemas'
import { taskView } from '#usecases/know/doToMany'
import { runRule } from '#usecases/know/rules'

export default handle({ body: runInput }, ({ house, id, body }) => taskView(house, runRule(house, id(), body.people)))
