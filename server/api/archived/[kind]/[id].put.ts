import { thingOf } from '#server/asThing'
import { handle } from '#server/http'
import { archiveThing } from '#usecases/know/archive'

export default handle({}, asked => archiveThing(asked.context, thingOf(asked)))
