import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { sourcesQuery } from '#server/peopleSchemas'

export default handle({ query: sourcesQuery }, ({ event, context, query }) => inReader(event, context.mode, 'sources', query))
