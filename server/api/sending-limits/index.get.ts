import { handle } from '#server/http'
import { sendingLimitsOf } from '#usecases/settings/limits'

export default handle({}, ({ context }) => sendingLimitsOf(context))
