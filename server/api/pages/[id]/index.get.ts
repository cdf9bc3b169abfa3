import { handle } from '#server/http'
import { pageView } from '#usecases/views/pages'

export default handle({}, ({ house, id }) => pageView(house, id()))
