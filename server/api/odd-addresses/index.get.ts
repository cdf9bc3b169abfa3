import { handle } from '#server/http'
import { oddAddressRuleOf } from '#usecases/settings/workspace'

export default handle({}, ({ house }) => oddAddressRuleOf(house))
