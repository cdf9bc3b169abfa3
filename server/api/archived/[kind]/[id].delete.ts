import { thingOf } from '#server/asThing'
import { handle } from '#server/http'
import { bringBack } from '#usecases/know/archive'

export default handle({}, asked => bringBack(asked.context, thingOf(asked)))
