import { handle } from '#server/http'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ house, id }) => subscriberView(house, id()))
