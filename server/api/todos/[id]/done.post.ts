import { handle } from '#server/http'
import { finishTodo } from '#usecases/know/todos'

export default handle({}, ({ house, id }) => finishTodo(house, id()))
