import { handle } from '#server/http'
import { courseView } from '#usecases/views/course'

export default handle({}, ({ house, id }) => courseView(house, id()))
