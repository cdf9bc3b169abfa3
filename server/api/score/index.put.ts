import { handle } from '#server/http'
import { scoreInput } from '#server/ruleSchemas'
import { saveScoreRule, scoreView } from '#usecases/settings/score'

export default handle({ body: scoreInput }, ({ house, body }) => {
  saveScoreRule(house, body)
  return scoreView(house)
})
