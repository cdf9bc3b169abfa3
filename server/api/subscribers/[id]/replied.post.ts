import { handle } from '#server/http'
import { noteReply } from '#usecases/know/todos'

export default handle({}, ({ context, id }) => noteReply(context, id()))
