import { handle } from '#server/http'
import { removeSegment } from '#usecases/know/segments'

export default handle({}, ({ context, id }) => removeSegment(context, id()))
