import { handle } from '#server/http'
import { takeOfferDown } from '#usecases/offers/save'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ context, id }) => {
  takeOfferDown(context, id())
  return offerView(context, id())
})
