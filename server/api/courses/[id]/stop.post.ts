import { handle } from '#server/http'
import { stopCourse } from '#usecases/courses/stop'

export default handle({}, ({ house, id }) => stopCourse(house, id()))
