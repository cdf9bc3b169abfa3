import { handle } from '#server/http'
import { removeCourse } from '#usecases/courses/stop'

export default handle({}, ({ house, id }) => removeCourse(house, id()))
