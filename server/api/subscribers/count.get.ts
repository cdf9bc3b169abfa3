import { handle } from '#server/http'
import { peopleSearch } from '#server/peopleSchemas'
import { subscribersQuery } from '#server/peopleQuery'
import { inReader } from '#server/reader/index'

export default handle({ query: peopleSearch }, async ({ event, house, query }) => ({ total: await inReader(event, house.mode, 'subscribersCount', subscribersQuery(query)) }))
