import { handle } from '#server/http'
import { publishChanges } from '#usecases/courses/publish'

export default handle({}, ({ house, id }) => publishChanges(house, id()))
