import { handle } from '#server/http'
import { couponInput } from '#server/offerSchemas'
import { saveCoupon } from '#usecases/offers/coupons'
import { offerView } from '#usecases/views/offers'

export default handle({ body: couponInput }, ({ context, id, body }) => {
  saveCoupon(context, id(), id('couponId'), body)
  return offerView(context, id())
})
