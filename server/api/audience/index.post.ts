import { handle } from '#server/http'
import { audienceQuery } from '#server/peopleSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: audienceQuery }, ({ event, house, body }) => inReader(event, house.mode, 'audience', body))
