import { handle } from '#server/http'
import { sendAgain } from '#usecases/courses/people'

export default handle({}, ({ context, id }) => sendAgain(context, id()))
