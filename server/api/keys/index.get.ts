import { handle } from '#server/http'
import { keysView } from '#usecases/api/keys'

export default handle({}, ({ context }) => keysView(context))
