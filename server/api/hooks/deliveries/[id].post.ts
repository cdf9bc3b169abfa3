import { handle } from '#server/http'
import { sendAgain } from '#usecases/know/hooks'

export default handle({}, ({ context, id }) => sendAgain(context, id()))
