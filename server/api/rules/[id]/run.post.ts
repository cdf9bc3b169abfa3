import { asManyAs } from '#server/asMany'
import { handle } from '#server/http'
import { runInput } from '#server/ruleSchemas'
import { taskView } from '#usecases/know/doToMany'
import { runRule } from '#usecases/know/rules'

export default handle({ body: runInput }, async ({ event, context, id, body: { people } }) => {
  await asManyAs(event, context, { kind: 'fit-rule', ruleId: id() }, people)
  return taskView(context, runRule(context, id(), people))
})
