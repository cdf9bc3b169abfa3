import { handle } from '#server/http'
import { takeOut } from '#usecases/courses/people'

export default handle({}, ({ house, id }) => takeOut(house, id()))
