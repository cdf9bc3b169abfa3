import { handle } from '#server/http'
import { removeRule } from '#usecases/know/rules'

export default handle({}, ({ house, id }) => removeRule(house, id()))
