import { handle } from '#server/http'
import { standStill } from '#usecases/courses/people'

export default handle({}, ({ context, id }) => standStill(context, id()))
