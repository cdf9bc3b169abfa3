import { handle } from '#server/http'
import { oddAddressInput } from '#server/schemas'
import { oddAddressRuleOf, saveOddAddressRule } from '#usecases/settings/workspace'

export default handle({ body: oddAddressInput }, ({ context, body }) => {
  saveOddAddressRule(context, body)
  return oddAddressRuleOf(context)
})
