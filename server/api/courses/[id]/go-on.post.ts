import { handle } from '#server/http'
import { letCourseGoOn } from '#usecases/courses/stop'

export default handle({}, ({ house, id }) => letCourseGoOn(house, id()))
