import { handle } from '#server/http'
import { taskViews } from '#usecases/know/doToMany'

export default handle({}, ({ context }) => taskViews(context))
