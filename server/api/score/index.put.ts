import { handle } from '#server/http'
import { scoreInput } from '#server/ruleSchemas'
import { saveScoreRule, scoreView } from '#usecases/settings/score'

export default handle({ body: scoreInput }, ({ context, body }) => {
  saveScoreRule(context, body)
  return scoreView(context)
})
