import { handle } from '#server/http'
import { coursePieces } from '#usecases/courses/exchange'

export default handle({}, () => coursePieces())
