import { handle } from '#server/http'
import { takeOfferDown } from '#usecases/offers/save'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ house, id }) => {
  takeOfferDown(house, id())
  return offerView(house, id())
})
