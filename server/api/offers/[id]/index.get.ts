import { handle } from '#server/http'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ house, id }) => offerView(house, id()))
