import { asManyAs } from '#server/asMany'
import { startInput } from '#server/courseSchemas'
import { handle, seenRevision } from '#server/http'
import { startCourse } from '#usecases/courses/publish'

export default handle({ body: startInput }, async ({ event, context, id, body: { include, people } }) => {
  if (include.kind !== 'none') await asManyAs(event, context, { kind: 'outside', courseId: id() }, people!)
  return startCourse(context, id(), include, people, seenRevision(event))
})
