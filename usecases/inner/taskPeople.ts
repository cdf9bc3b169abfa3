/** Whom a task is for, as a question to the database. */
import { toSql, type SqlCondition } from '#core/audience/sql'
import type { TaskPeople } from '#core/people/task'
import type { Audience } from '#core/sending/audience'
import { whoFits } from '#core/rules/fits'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { waitsOutside, withField } from '#data/entries'
import { finishedCourse } from '#data/enrolments'
import { among, type Which } from '#data/people'
import { findRule } from '#data/rules'
import { findSendById } from '#data/sends'
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

/** Who of them is marked as they are put down; nobody, but of an audience. */
export function markedOf(db: Database, whom: AskedPeople, at: Instant): SqlCondition | undefined {
  const never = whom.kind === 'audience' ? audienceOf(db, whom.sendId).never : null
  return never === null ? undefined : toSql(never, momentOf(db, at), 'each')
}

function audienceOf(db: Database, sendId: number): Audience {
  const audience = findSendById(db, sendId)?.audience
  if (!audience) throw new NotThere('This is no longer known.')
  return audience
}

function whereOf(db: Database, whom: AskedPeople, at: Instant): SqlCondition {
  switch (whom.kind) {
    case 'picked':
      return among(whom.ids)
    case 'fitting':
      return toSql(whom.condition, momentOf(db, at))
    case 'audience':
      // Asked of some people at a time: whoever else is on a list need not be read each time.
      return toSql(audienceOf(db, whom.sendId).getsIt, momentOf(db, at), 'each')
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
