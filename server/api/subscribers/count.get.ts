import { handle } from '#server/http'
import { peopleSearch } from '#server/peopleSchemas'
import { subscribersQuery } from '#server/peopleQuery'
import { inReader } from '#server/reader/index'

export default handle({ query: peopleSearch }, ({ event, context, query }) => inReader(event, context.mode, 'subscribersCount', subscribersQuery(query)))
