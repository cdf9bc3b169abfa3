import { handle } from '#server/http'
import { removeCoupon } from '#usecases/offers/coupons'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ context, id }) => {
  removeCoupon(context, id(), id('couponId'))
  return offerView(context, id())
})
