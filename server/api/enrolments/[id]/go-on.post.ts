import { handle } from '#server/http'
import { goOnAgain } from '#usecases/courses/people'

export default handle({}, ({ house, id }) => goOnAgain(house, id()))
