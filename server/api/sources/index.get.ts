import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { sourcesQuery } from '#server/peopleSchemas'

export default handle({ query: sourcesQuery }, ({ event, house, query }) => inReader(event, house.mode, 'sources', query))
