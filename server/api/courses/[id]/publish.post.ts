import { handle, seenRevision } from '#server/http'
import { publishInput } from '#server/courseSchemas'
import { publishChanges } from '#usecases/courses/publish'

export default handle({ body: publishInput }, ({ event, house, id, body }) => publishChanges(house, id(), { goesOn: body.goesOn, seen: seenRevision(event) }))
