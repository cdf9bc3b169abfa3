/** What house rules are told and checked with: the names of everything they can be about, and how far an action reaches. */
import type { Reach } from '#core/rules/circles'
import type { RuleNames } from '#core/rules/say'
import type { Database } from '#data/connection'
import { allCourses, coursesStartedBy } from '#data/courses'
import { hookNames } from '#data/hooks'
import { allSegments } from '#data/segments'
import { namesOf } from './names'

export function ruleNamesOf(db: Database): RuleNames {
  const named = (rows: { id: number, name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]))
  const hooks = hookNames(db)
  return { ...namesOf(db), hooksIn: named(hooks.in), hooksOut: named(hooks.out) }
}

export function reachOf(db: Database): Reach {
  const courses = allCourses(db)
  return {
    coursesStartedBy: tagId => coursesStartedBy(db, tagId),
    coursesOfList: listId => courses.filter(course => course.listId === listId).map(({ id }) => id),
    segments: new Map(allSegments(db).map(({ id, condition }) => [id, condition])),
  }
}
