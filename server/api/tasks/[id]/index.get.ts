import { handle } from '#server/http'
import { taskView } from '#usecases/know/doToMany'

export default handle({}, ({ context, id }) => taskView(context, id()))
