import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, ({ event, house, id }) => inReader(event, house.mode, 'courseNumbers', id()))
