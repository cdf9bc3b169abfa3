import { handle } from '#server/http'
import { stopCourse } from '#usecases/courses/stop'

export default handle({}, ({ context, id }) => stopCourse(context, id()))
