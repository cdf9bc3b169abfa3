import { handle } from '#server/http'
import { sourceCostsInput } from '#server/peopleSchemas'
import { saveSourceCosts } from '#usecases/arrive/costs'
import { sourceCosts } from '#usecases/views/sources'

export default handle({ body: sourceCostsInput }, ({ house, body }) => {
  saveSourceCosts(house, body)
  return sourceCosts(house, body.source)
})
