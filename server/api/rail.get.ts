import { handle } from '#server/http'
import { railView } from '#usecases/views/frame'

export default handle({}, ({ house }) => railView(house))
