import { handle } from '#server/http'
import { consentRuleInput } from '#server/peopleSchemas'
import { saveConsentRule } from '#usecases/settings/workspace'
import { consentView } from '#usecases/views/consent'

export default handle({ body: consentRuleInput }, ({ context, body }) => {
  saveConsentRule(context, body)
  return consentView(context)
})
