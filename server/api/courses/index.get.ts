import { handle } from '#server/http'
import { courseLines } from '#usecases/views/course'

export default handle({}, ({ house }) => courseLines(house))
