import { handle } from '#server/http'
import { standingQuery } from '#server/courseSchemas'
import { inReader } from '#server/reader/index'

export default handle({ query: standingQuery }, ({ event, house, id, query }) => inReader(event, house.mode, 'courseStanding', { courseId: id(), ...query }))
