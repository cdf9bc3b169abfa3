import { handle } from '#server/http'
import { finishTodo } from '#usecases/know/todos'

export default handle({}, ({ context, id }) => finishTodo(context, id()))
