import { handle } from '#server/http'
import { copyCourseTemplate } from '#usecases/courses/exchange'

export default handle({}, ({ context, param }) => copyCourseTemplate(context, param('key')))
