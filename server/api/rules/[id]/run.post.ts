import { asManyAs } from '#server/asMany'
import { handle } from '#server/http'
import { runInput } from '#server/ruleSchemas'
import { taskView } from '#usecases/know/doToMany'
import { runRule } from '#usecases/know/rules'

export default handle({ body: runInput }, async ({ event, house, id, body: { people } }) => {
  await asManyAs(event, house, { kind: 'fit-rule', ruleId: id() }, people)
  return taskView(house, runRule(house, id(), people))
})
