import { handle } from '#server/http'
import { pastSalesQuery } from '#server/offerSchemas'
import { pastSales } from '#server/files/index'

const MOST_BYTES = 20_000_000

export default handle({ upload: MOST_BYTES, query: pastSalesQuery }, ({ context, bytes, query: { bring, spec, unknown, starts } }) => pastSales(context, { bytes, spec, unknown, starts }, bring))
