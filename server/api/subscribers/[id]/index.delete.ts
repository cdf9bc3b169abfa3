import { handle } from '#server/http'
import { erasePerson } from '#usecases/know/erase'

export default handle({}, ({ context, id }) => erasePerson(context, id()))
