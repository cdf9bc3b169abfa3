import { handle } from '#server/http'
import { fieldLines } from '#usecases/views/fields'

export default handle({}, ({ context }) => fieldLines(context))
