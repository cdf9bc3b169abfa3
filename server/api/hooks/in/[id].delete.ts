import { handle } from '#server/http'
import { removeHookIn } from '#usecases/know/hooks'

export default handle({}, ({ context, id }) => removeHookIn(context, id()))
