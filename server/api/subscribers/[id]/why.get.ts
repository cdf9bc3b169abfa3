import { handle } from '#server/http'
import { whyQuery } from '#server/peopleSchemas'
import { whyView } from '#usecases/views/why'

export default handle({ query: whyQuery }, ({ context, id, query }) => whyView(context, id(), { kind: query.kind, ownerId: query.owner, itemId: query.item }))
