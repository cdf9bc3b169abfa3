import { handle } from '#server/http'
import { inReader } from '#server/reader/index'

export default handle({}, ({ event, house }) => inReader(event, house.mode, 'engine'))
