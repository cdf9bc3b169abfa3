import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, ({ event, context }) => inReader(event, context.mode, 'ruleParts'))
