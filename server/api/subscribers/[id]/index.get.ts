import { handle } from '#server/http'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ context, id }) => subscriberView(context, id()))
