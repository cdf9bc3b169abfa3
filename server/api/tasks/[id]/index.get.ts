import { handle } from '#server/http'
import { taskView } from '#usecases/know/doToMany'

export default handle({}, ({ house, id }) => taskView(house, id()))
