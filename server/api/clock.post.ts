import { handle } from '#server/http'
import { clockMove } from '#server/schemas'
import { moveClock } from '#usecases/time/moveClock'

export default handle({ body: clockMove }, ({ context, body }) => ({ movingTo: moveClock(context, body) }))
