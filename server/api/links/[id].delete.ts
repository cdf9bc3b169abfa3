import { handle } from '#server/http'
import { removeLink } from '#usecases/know/links'

export default handle({}, ({ house, id }) => removeLink(house, id()))
