import { handle } from '#server/http'
import { erasePerson } from '#usecases/know/erase'

export default handle({}, ({ house, id }) => erasePerson(house, id()))
