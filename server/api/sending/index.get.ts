import { handle } from '#server/http'
import { sendingSettingsOf } from '#usecases/settings/sending'

export default handle({}, ({ house }) => sendingSettingsOf(house))
