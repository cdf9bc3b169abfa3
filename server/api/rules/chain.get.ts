import { handle } from '#server/http'
import { firingQuery } from '#server/ruleSchemas'
import { chainOf } from '#usecases/views/rules'

export default handle({ query: firingQuery }, ({ context, query }) => chainOf(context, query.firing))
