import { handle } from '#server/http'
import { removeOffer } from '#usecases/offers/save'

export default handle({}, ({ house, id }) => removeOffer(house, id()))
