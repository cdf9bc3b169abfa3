import { handle } from '#server/http'
import { tagLines } from '#usecases/views/listsAndTags'

export default handle({}, ({ house }) => tagLines(house))
