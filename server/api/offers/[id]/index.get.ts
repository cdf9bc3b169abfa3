import { handle } from '#server/http'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ context, id }) => offerView(context, id()))
