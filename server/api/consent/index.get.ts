import { handle } from '#server/http'
import { consentView } from '#usecases/views/consent'

export default handle({}, ({ context }) => consentView(context))
