import { handle } from '#server/http'
import { sendingHoursOf } from '#usecases/settings/hours'

export default handle({}, ({ context }) => sendingHoursOf(context))
