import { handle } from '#server/http'
import { removeHookOut } from '#usecases/know/hooks'

export default handle({}, ({ house, id }) => removeHookOut(house, id()))
