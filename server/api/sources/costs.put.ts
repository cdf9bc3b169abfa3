import { handle } from '#server/http'
import { sourceCostsInput } from '#server/peopleSchemas'
import { saveSourceCosts } from '#usecases/arrive/costs'
import { sourceCosts } from '#usecases/views/sources'

export default handle({ body: sourceCostsInput }, ({ context, body }) => {
  saveSourceCosts(context, body)
  return sourceCosts(context, body.source)
})
