import { handle } from '#server/http'
import { standStill } from '#usecases/courses/people'

export default handle({}, ({ house, id }) => standStill(house, id()))
