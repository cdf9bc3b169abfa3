import { thingOf } from '#server/asThing'
import { handle } from '#server/http'
import { copyThing } from '#usecases/know/copyThing'

export default handle({}, async asked => ({ id: await copyThing(asked.context, thingOf(asked)) }))
