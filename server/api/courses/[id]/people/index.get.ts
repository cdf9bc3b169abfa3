import { handle } from '#server/http'
import { standingQuery } from '#server/courseSchemas'
import { inReader } from '#server/reader/index'

export default handle({ query: standingQuery }, ({ event, context, id, query }) => inReader(event, context.mode, 'courseStanding', { courseId: id(), ...query }))
