import { handle } from '#server/http'
import { MOST_COURSE_BYTES, readCourseFile } from '#server/courseFile'
import { bringCourse } from '#usecases/courses/exchange'

export default handle({ upload: MOST_COURSE_BYTES }, ({ house, bytes }) => bringCourse(house, readCourseFile(bytes)))
