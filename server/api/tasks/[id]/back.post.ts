import { handle } from '#server/http'
import { takeBack, taskView } from '#usecases/know/doToMany'

export default handle({}, ({ context, id }) => taskView(context, takeBack(context, id())))
