import { handle } from '#server/http'
import { pastSalesQuery } from '#server/offerSchemas'
import { bringPastSales, lookAtPastSales } from '#usecases/offers/pastSales'

const MOST_BYTES = 20_000_000

export default handle({ upload: MOST_BYTES, query: pastSalesQuery }, ({ house, bytes, query: { bring, spec, unknown, starts } }) => (bring ? bringPastSales : lookAtPastSales)(house, { bytes, spec, unknown, starts }))
