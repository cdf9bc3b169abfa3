import { handle, seenRevision } from '#server/http'
import { inReader } from '#server/reader/index'
import { courseInput } from '#server/courseSchemas'
import { saveCourse } from '#usecases/courses/save'

export default handle({ body: courseInput }, ({ event, context, id, body }) => {
  saveCourse(context, id(), body.name, body.draft, seenRevision(event))
  return inReader(event, context.mode, 'course', id())
})
