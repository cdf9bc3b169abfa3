/** Who may come into a course, and what lets them in. */
import { toSql, type SqlCondition } from '#core/audience/sql'
import type { CourseDraft } from '#core/sequence/draft'
import type { Program } from '#core/sequence/program'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import type { EntryTriggers } from '#data/entries'
import { momentOf } from './moment'

export const entryTriggersOf = (courseId: number, {
  wayInTagIds, wayInListIds = [],
}: Pick<CourseDraft, 'wayInTagIds' | 'wayInListIds'>): EntryTriggers => ({ courseId, tagIds: wayInTagIds, listIds: wayInListIds })

/** Who may come in at all, as an expression; null for everybody. */
export const entrySql = (db: Database, { entry }: Pick<Program, 'entry'>, at: Instant): SqlCondition | null =>
  entry ? toSql(entry, momentOf(db, at)) : null
