import { handle } from '#server/http'
import { removeCourse } from '#usecases/courses/stop'

export default handle({}, ({ context, id }) => removeCourse(context, id()))
