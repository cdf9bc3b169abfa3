import { handle } from '#server/http'
import { oddAddressRuleOf } from '#usecases/settings/workspace'

export default handle({}, ({ context }) => oddAddressRuleOf(context))
