import { handle } from '#server/http'
import { pageLines } from '#usecases/views/pages'

export default handle({}, ({ house }) => pageLines(house))
