import { handle } from '#server/http'
import { goOnAgain } from '#usecases/courses/people'

export default handle({}, ({ context, id }) => goOnAgain(context, id()))
