import { handle } from '#server/http'
import { taskViews } from '#usecases/know/doToMany'

export default handle({}, ({ house }) => taskViews(house))
