import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { linkQuery } from '#server/ruleSchemas'

export default handle({ query: linkQuery }, ({ event, context, id, query }) => inReader(event, context.mode, 'link', { id: id(), days: query.days }))
