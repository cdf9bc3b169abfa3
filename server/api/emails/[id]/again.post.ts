import { handle } from '#server/http'
import { sendAgain } from '#usecases/courses/people'

export default handle({}, ({ house, id }) => sendAgain(house, id()))
