import { handle, seenRevision } from '#server/http'
import { publishChanges } from '#usecases/courses/publish'

export default handle({}, ({ event, house, id }) => publishChanges(house, id(), seenRevision(event)))
