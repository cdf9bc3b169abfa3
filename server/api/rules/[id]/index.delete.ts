import { handle } from '#server/http'
import { removeRule } from '#usecases/know/rules'

export default handle({}, ({ context, id }) => removeRule(context, id()))
