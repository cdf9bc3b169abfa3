import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, ({ event, context, id }) => inReader(event, context.mode, 'keptRehearsals', id()))
