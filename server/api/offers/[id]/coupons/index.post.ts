import { handle } from '#server/http'
import { couponInput } from '#server/offerSchemas'
import { saveCoupon } from '#usecases/offers/coupons'
import { offerView } from '#usecases/views/offers'

export default handle({ body: couponInput }, ({ house, id, body }) => {
  saveCoupon(house, id(), null, body)
  return offerView(house, id())
})
