import { systemClock } from '#runtime/open'
import { handle } from '#server/http'
import { removeKey } from '#usecases/api/keys'

export default handle({}, ({ house, id }) => removeKey(house, id(), systemClock.now()))
