import { handle } from '#server/http'
import { oddAddressInput } from '#server/schemas'
import { oddAddressRuleOf, saveOddAddressRule } from '#usecases/settings/workspace'

export default handle({ body: oddAddressInput }, ({ house, body }) => {
  saveOddAddressRule(house, body)
  return oddAddressRuleOf(house)
})
