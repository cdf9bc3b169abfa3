import { systemClock } from '#runtime/open'
import { handle } from '#server/http'
import { removeKey } from '#usecases/api/keys'

export default handle({}, ({ context, id }) => removeKey(context, id(), systemClock.now()))
