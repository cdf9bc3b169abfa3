import { handle } from '#server/http'
import { sourceKey } from '#server/peopleSchemas'
import { sourceCosts } from '#usecases/views/sources'

export default handle({ query: sourceKey }, ({ house, query }) => sourceCosts(house, query))
