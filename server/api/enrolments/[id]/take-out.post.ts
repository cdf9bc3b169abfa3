import { handle } from '#server/http'
import { takeOut } from '#usecases/courses/people'

export default handle({}, ({ context, id }) => takeOut(context, id()))
