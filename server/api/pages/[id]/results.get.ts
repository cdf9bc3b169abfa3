import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { resultsQuery } from '#server/schemas'

export default handle({ query: resultsQuery }, ({ event, context, id, query }) => inReader(event, context.mode, 'pageResults', { id: id(), days: query.days }))
