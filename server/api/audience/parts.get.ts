/** Everything a condition can be about, to choose from. */
import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, ({ event, context }) => inReader(event, context.mode, 'conditionParts'))
