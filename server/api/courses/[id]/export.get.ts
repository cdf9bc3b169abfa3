/** A course to take along: as JSON, or as a folder of Markdown files. */
import { setResponseHeader } from 'h3'
import { toFolder } from '#core/exchange/courseFolder'
import { slugOf } from '#core/message/headers'
import { toZip } from '#runtime/zip'
import { handle } from '#server/http'
import { exportAsQuery } from '#server/courseSchemas'
import { exportCourse } from '#usecases/courses/exchange'

export default handle({ query: exportAsQuery }, ({ event, context, id, query }) => {
  const course = exportCourse(context, id())
  const zip = query.as === 'folder'
  setResponseHeader(event, 'content-type', zip ? 'application/zip' : 'application/json')
  setResponseHeader(event, 'content-disposition', `attachment; filename="${slugOf(course.name) || 'course'}.${zip ? 'zip' : 'json'}"`)
  return zip ? Buffer.from(toZip(toFolder(course))) : `${JSON.stringify(course, null, 2)}\n`
})
