import { handle } from '#server/http'
import { audienceQuery } from '#server/peopleSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: audienceQuery }, ({ event, context, body }) => inReader(event, context.mode, 'audienceMore', body))
