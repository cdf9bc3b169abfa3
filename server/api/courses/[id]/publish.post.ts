import { handle, seenRevision } from '#server/http'
import { publishInput } from '#server/courseSchemas'
import { publishChanges } from '#usecases/courses/publish'

export default handle({ body: publishInput }, ({ event, context, id, body }) => publishChanges(context, id(), { goesOn: body.goesOn, seen: seenRevision(event) }))
