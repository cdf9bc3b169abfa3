import { handle } from '#server/http'
import { removeHookOut } from '#usecases/know/hooks'

export default handle({}, ({ context, id }) => removeHookOut(context, id()))
