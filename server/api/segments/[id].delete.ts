import { handle } from '#server/http'
import { removeSegment } from '#usecases/know/segments'

export default handle({}, ({ house, id }) => removeSegment(house, id()))
