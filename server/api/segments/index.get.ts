import { handle } from '#server/http'
import { segmentLines } from '#usecases/views/segments'

export default handle({}, ({ context }) => segmentLines(context))
