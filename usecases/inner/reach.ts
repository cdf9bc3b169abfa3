/** How far an action of a house rule reaches: which courses a tag or a list begins, and what segments ask for. */
import type { Reach } from '#core/rules/circles'
import type { Database } from '#data/connection'
import { atOnceOf } from '#core/sequence/atOnce'
import { allCourses, coursesStartedBy, coursesStartedByList, programOfVersion, runningCourses } from '#data/courses'
import { allSegments } from '#data/segments'

export function reachOf(db: Database): Reach {
  const courses = allCourses(db)
  return {
    coursesStartedBy: tagId => coursesStartedBy(db, tagId),
    coursesOfList: listId => courses.filter(course => course.listId === listId).map(({ id }) => id),
    coursesStartedByList: listId => coursesStartedByList(db, listId),
    courses: new Map(runningCourses(db).filter(({ again }) => again !== 'once')
      .map(({ id, versionId }) => [id, atOnceOf(programOfVersion(db, versionId))])),
    segments: new Map(allSegments(db).map(({ id, condition }) => [id, condition])),
  }
}
