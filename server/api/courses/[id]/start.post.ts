import { handle, seenRevision } from '#server/http'
import { startInput } from '#server/courseSchemas'
import { startCourse } from '#usecases/courses/publish'

export default handle({ body: startInput }, ({ event, house, id, body }) => startCourse(house, id(), body.include, body.people, seenRevision(event)))
