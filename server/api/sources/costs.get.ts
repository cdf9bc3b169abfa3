import { handle } from '#server/http'
import { sourceKey } from '#server/peopleSchemas'
import { sourceCosts } from '#usecases/views/sources'

export default handle({ query: sourceKey }, ({ context, query }) => sourceCosts(context, query))
