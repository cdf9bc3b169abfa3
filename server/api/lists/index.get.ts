import { handle } from '#server/http'
import { listLines } from '#usecases/views/listsAndTags'

export default handle({}, ({ house }) => listLines(house))
