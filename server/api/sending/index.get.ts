import { handle } from '#server/http'
import { sendingSettingsOf } from '#usecases/settings/sending'

export default handle({}, ({ context }) => sendingSettingsOf(context))
