import { handle } from '#server/http'
import { salesQuery } from '#server/offerSchemas'
import { inReader } from '#server/reader/index'

export default handle({ query: salesQuery }, ({ event, context, id, query }) => {
  const { days, state, coupon, source, word, email, page } = query
  return inReader(event, context.mode, 'offerSales', { id: id(), days, state, couponId: coupon, source: source === null ? null : { kind: source, word }, email, page })
})
