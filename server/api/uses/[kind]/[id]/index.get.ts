import { thingOf } from '#server/asThing'
import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, asked => inReader(asked.event, asked.context.mode, 'ending', thingOf(asked)))
