import { handle } from '#server/http'
import { removePage } from '#usecases/arrive/pages'

export default handle({}, ({ house, id }) => removePage(house, id()))
