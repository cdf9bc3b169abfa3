/** Whom a task is for, as a question to the database. */
import { toSql, type SqlCondition } from '#core/audience/sql'
import type { TaskPeople } from '#core/people/task'
import { whoFits } from '#core/rules/fits'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { waitsOutside, withField } from '#data/entries'
import { finishedCourse } from '#data/enrolments'
import { among, type Which } from '#data/people'
import { findRule } from '#data/rules'
import { NotThere } from '../problem'
import { fittingOf } from './fitting'
import { momentOf } from './moment'
import { entryTriggersOf, entrySql } from './entries'

/** Those whom another task changed are asked of that task. */
export type AskedPeople = Exclude<TaskPeople, { kind: 'changed-by' }>

/** As it stands at `at`. */
export const whichOf = (db: Database, whom: AskedPeople, at: Instant): Which => ({
  search: whom.kind === 'fitting' ? whom.search : '', where: whereOf(db, whom, at),
})

function whereOf(db: Database, whom: AskedPeople, at: Instant): SqlCondition {
  switch (whom.kind) {
    case 'picked':
      return among(whom.ids)
    case 'fitting':
      return toSql(whom.condition, momentOf(db, at))
    case 'outside': {
      const course = findCourse(db, whom.courseId)
      const draft = course?.published ?? course?.draft
      if (!draft) throw new NotThere('This course no longer exists.')
      return waitsOutside(entryTriggersOf(whom.courseId, draft), entrySql(db, draft, at))
    }
    case 'with-field':
      return withField(whom.fieldId)
    case 'finished':
      return finishedCourse(whom.courseId)
    case 'fit-rule': {
      const rule = findRule(db, whom.ruleId)
      if (!rule) throw new NotThere('This house rule no longer exists.')
      return toSql(whoFits(rule, fittingOf(db)), momentOf(db, at))
    }
  }
}
