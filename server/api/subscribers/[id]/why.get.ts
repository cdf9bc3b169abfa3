import { handle } from '#server/http'
import { whyQuery } from '#server/peopleSchemas'
import { whyView } from '#usecases/views/why'

export default handle({ query: whyQuery }, ({ house, id, query }) => whyView(house, id(), query.course, query.step))
