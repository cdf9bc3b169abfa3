import { handle } from '#server/http'
import { courseInput } from '#server/schemas'
import { saveCourse } from '#usecases/courses/save'
import { courseView } from '#usecases/views/course'

export default handle({ body: courseInput }, ({ house, id, body }) => {
  saveCourse(house, id(), body.name, body.draft)
  return courseView(house, id())
})
