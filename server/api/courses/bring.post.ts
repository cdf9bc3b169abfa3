import { handle } from '#server/http'
import { MOST_COURSE_BYTES } from '#server/courseFile'
import { readCourse } from '#server/files/index'
import { bringCourse } from '#usecases/courses/exchange'

export default handle({ upload: MOST_COURSE_BYTES }, async ({ context, bytes }) => bringCourse(context, await readCourse(bytes)))
