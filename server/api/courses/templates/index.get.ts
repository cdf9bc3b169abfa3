import { handle } from '#server/http'
import { courseTemplates } from '#usecases/courses/exchange'

export default handle({}, () => courseTemplates())
