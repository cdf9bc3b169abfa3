import { handle } from '#server/http'
import { removeCoupon } from '#usecases/offers/coupons'
import { offerView } from '#usecases/views/offers'

export default handle({}, ({ house, id }) => {
  removeCoupon(house, id(), id('couponId'))
  return offerView(house, id())
})
