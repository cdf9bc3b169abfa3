import { handle } from '#server/http'
import { letCourseGoOn } from '#usecases/courses/stop'

export default handle({}, ({ context, id }) => letCourseGoOn(context, id()))
