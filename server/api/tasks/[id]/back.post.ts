import { handle } from '#server/http'
import { takeBack, taskView } from '#usecases/know/doToMany'

export default handle({}, ({ house, id }) => taskView(house, takeBack(house, id())))
