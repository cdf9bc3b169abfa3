import { handle } from '#server/http'
import { copyPiece } from '#usecases/courses/exchange'

export default handle({}, ({ house, param }) => copyPiece(house, param('key')))
