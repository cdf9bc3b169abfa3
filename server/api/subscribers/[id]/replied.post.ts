import { handle } from '#server/http'
import { noteReply } from '#usecases/know/todos'

export default handle({}, ({ house, id }) => noteReply(house, id()))
