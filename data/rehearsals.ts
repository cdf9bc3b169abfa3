/** A copy in memory of all that is made, and of nobody: where rehearsals are played. */
import Sqlite from 'better-sqlite3'
import type { Instant } from '#core/time/zone'
import { configure, type Database, prepare } from './connection'
import { migrate } from './migrate'

/** In the order in which a reader would meet them; blobs and words of emails stay behind, a rehearsal shows neither. */
const COPIED = [
  'senders', 'lists', 'tags', 'fields', 'named_sources', 'touches', 'segments', 'links', 'rules', 'rules_change', 'hooks_in', 'hooks_out',
  'pages', 'page_versions', 'offers', 'offer_versions', 'coupons', 'message_links', 'courses', 'course_ways_in', 'course_ways_in_lists',
]
const WORKSPACE =
  `mode = 'practice', carrier_state = 'ready', carrier_reason = NULL, carrier_since_at = NULL, carrier_pause_until_at = NULL, held_since_at = NULL, smtp_url = NULL, payments_url = NULL, payments_secret = ''`

/** An empty workspace file of this version, made once per process. */
let empty: Buffer | undefined

function emptyDatabase(): Database {
  if (!empty) {
    const db = configure(new Sqlite(':memory:'))
    migrate(db, 0)
    empty = db.serialize()
    db.close()
  }
  return configure(new Sqlite(empty))
}

/** What is made in `from`, as bytes of a database of its own. Nothing in it refers to people or events. */
export function copyInMemory(from: Database): Buffer {
  const to = emptyDatabase()
  to.pragma('foreign_keys = OFF')
  to.transaction(() => {
    prepare(to, 'DELETE FROM segments').run()
    prepare(to, 'DELETE FROM rules_change').run()
    for (const table of COPIED) copyRows(from, to, table, '*')
    copyRows(from, to, 'workspace', '*')
    copyRows(from, to, 'messages', `*, '[]' AS html, '[]' AS text`)
    copyRows(from, to, 'course_versions', '*', 'WHERE id IN (SELECT version_id FROM courses)')
    prepare(to, `UPDATE workspace SET ${WORKSPACE} WHERE id = 1`).run()
    prepare(to, 'UPDATE links SET check_due_at = NULL').run()
    // What is rehearsed does not wait for a code.
    prepare(to, 'UPDATE senders SET confirmed_at = 0, code = NULL, service_url = NULL, stopped_reason = NULL, stopped_at = NULL').run()
    prepare(to, 'UPDATE courses SET moving_at = NULL, moving_event_id = NULL').run()
    prepare(to, 'INSERT INTO practice_clock (id, now_at, target_at) VALUES (1, 0, 0)').run()
  })()
  const bytes = to.serialize()
  to.close()
  return bytes
}

/** A later column of the same name takes the place of an earlier one. */
function copyRows(from: Database, to: Database, table: string, columns: string, where = ''): void {
  const rows = from.prepare(`SELECT ${columns} FROM ${table} ${where}`).all() as Record<string, unknown>[]
  if (rows.length === 0) return
  const names = Object.keys(rows[0]!)
  const insert = to.prepare(`INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map(name => `@${name}`).join(', ')})`)
  for (const row of rows) insert.run(row)
}

/** The copy opened, with its clock at `at`; it may go as far as it likes. */
export function openCopy(bytes: Buffer, at: Instant): Database {
  const db = configure(new Sqlite(bytes))
  db.pragma('foreign_keys = OFF')
  prepare(db, 'UPDATE practice_clock SET now_at = ?, target_at = ? WHERE id = 1').run(at, Number.MAX_SAFE_INTEGER)
  return db
}

/* Kept rehearsals */

export interface RehearsalRow { id: number, courseId: number, reader: string, story: string, keptAt: Instant }

export function rehearsalsOf(db: Database, courseId: number): RehearsalRow[] {
  return prepare<RehearsalRow>(
    db, 'SELECT id, course_id AS courseId, reader, story, kept_at AS keptAt FROM rehearsals WHERE course_id = ? ORDER BY id',
  ).all(courseId)
}

export function insertRehearsal(db: Database, row: Omit<RehearsalRow, 'id'>): number {
  return Number(prepare(
    db, 'INSERT INTO rehearsals (course_id, reader, story, kept_at) VALUES (@courseId, @reader, @story, @keptAt)',
  ).run(row).lastInsertRowid)
}

export function updateRehearsal(db: Database, id: number, story: string, at: Instant): void {
  prepare(db, 'UPDATE rehearsals SET story = ?, kept_at = ? WHERE id = ?').run(story, at, id)
}

export function deleteRehearsal(db: Database, courseId: number, id: number): boolean {
  return prepare(db, 'DELETE FROM rehearsals WHERE id = ? AND course_id = ?').run(id, courseId).changes === 1
}
