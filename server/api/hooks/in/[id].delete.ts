import { handle } from '#server/http'
import { removeHookIn } from '#usecases/know/hooks'

export default handle({}, ({ house, id }) => removeHookIn(house, id()))
