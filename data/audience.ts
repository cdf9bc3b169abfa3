/** What is known about one person, for conditions; and everybody a condition holds for. */
import type { EmailFacts, PersonFacts } from '#core/audience/meaning'
import type { Compiled } from '#core/audience/sql'
import type { Database } from './connection'
import { q } from './connection'

/** Undefined if there is no such person. */
export function factsOf(db: Database, personId: number): PersonFacts | undefined {
  const person = q<Pick<PersonFacts, 'id' | 'status' | 'source' | 'createdAt'>>(db, 'SELECT id, status, source, created_at AS createdAt FROM people WHERE id = ?').get(personId)
  if (!person) return undefined
  const readings = (table: 'opens' | 'clicks') => {
    const times = new Map<number, number[]>()
    const sql = { opens: READ('opens'), clicks: READ('clicks') }[table]
    for (const { outboxId, at } of q<{ outboxId: number, at: number }>(db, sql).all(personId)) times.set(outboxId, [...times.get(outboxId) ?? [], at])
    return times
  }
  const [opens, clicks] = [readings('opens'), readings('clicks')]
  return {
    ...person,
    lists: q<{ listId: number, left: 0 | 1 }>(db, 'SELECT list_id AS listId, left_at IS NOT NULL AS left FROM list_members WHERE person_id = ?').all(personId).map(row => ({ listId: row.listId, left: row.left === 1 })),
    tags: q<PersonFacts['tags'][number]>(db, 'SELECT tag_id AS tagId, since_at AS sinceAt FROM tag_holdings WHERE person_id = ?').all(personId),
    optIns: q<PersonFacts['optIns'][number]>(db, `SELECT page_id AS pageId, at FROM events WHERE person_id = ? AND kind = 'opted-in'`).all(personId),
    emails: q<Omit<EmailFacts, 'opens' | 'clicks' | 'triedAgain'> & { id: number, goAt: number | null }>(db, `
      SELECT id, thing_id AS courseId, step_id AS stepId, planned_at AS plannedAt, status, go_at AS goAt, handed_over_at AS handedOverAt, left_at AS leftAt
      FROM outbox WHERE person_id = ?`).all(personId)
      .map(({ id, goAt, ...email }) => ({ ...email, triedAgain: goAt !== null, opens: opens.get(id) ?? [], clicks: clicks.get(id) ?? [] })),
    enrolments: q<PersonFacts['enrolments'][number]>(db, 'SELECT course_id AS courseId, status, step_id AS stepId FROM enrolments WHERE person_id = ?').all(personId),
  }
}

const READ = (table: 'opens' | 'clicks') => `
  SELECT r.outbox_id AS outboxId, r.at FROM ${table} r JOIN outbox o ON o.id = r.outbox_id WHERE o.person_id = ? AND r.judged = 'reader'`

/** Everybody for whom the condition holds, by id. */
export function peopleWhere(db: Database, where: Compiled): number[] {
  return db.prepare<unknown[], { id: number }>(`SELECT p.id FROM people p WHERE ${where.sql} ORDER BY p.id`).all(...where.values).map(row => row.id)
}
