import { handle } from '#server/http'
import { inReader } from '#server/reader/index'
import { linkQuery } from '#server/ruleSchemas'

export default handle({ query: linkQuery }, ({ event, house, id, query }) => inReader(event, house.mode, 'link', { id: id(), days: query.days }))
