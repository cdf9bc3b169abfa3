import { handle } from '#server/http'
import { removeOffer } from '#usecases/offers/save'

export default handle({}, ({ context, id }) => removeOffer(context, id()))
