import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { resultsQuery } from '#server/schemas'

export default handle({ query: resultsQuery }, ({ event, house, id, query }) => inReader(event, house.mode, 'pageResults', { id: id(), days: query.days }))
