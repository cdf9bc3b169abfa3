import { handle } from '#server/http'
import { todoInput } from '#server/ruleSchemas'
import { addTodo } from '#usecases/know/todos'

export default handle({ body: todoInput }, ({ context, body }) => ({ id: addTodo(context, body) }))
