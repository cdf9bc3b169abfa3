/** What people still have of something that is gone, cleared away some at a time. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export type Cleared = 'tag' | 'list' | 'field' | 'segment' | 'entries-by-date' | 'scheduled-entries' | 'course'

/** `eventId`: by which it went, as it stands in people's histories; null where it does not. */
export interface Clearing { what: Cleared, thingId: number, eventId: number | null }

export function insertClearing(db: Database, clearing: Clearing): number {
  return Number(
    prepare(db, 'INSERT INTO clearings (what, thing_id, event_id) VALUES (@what, @thingId, @eventId)').run(clearing).lastInsertRowid,
  )
}

export function firstClearing(db: Database): (Clearing & { id: number }) | undefined {
  return prepare<Clearing & { id: number }>(db, `
    SELECT id, what, thing_id AS thingId, event_id AS eventId FROM clearings ORDER BY id LIMIT 1`).get()
}

interface Way {
  /** The ids of the next people who have something of it. */
  next: string
  /** What stands in the histories of those up to and with one of them. */
  history?: string
  /** Takes it from them. */
  clear: string | string[]
  /** Once nobody has any. */
  end?: string
}

const WAYS: Record<Cleared, Way> = {
  'tag': {
    next: 'SELECT person_id FROM tag_holdings WHERE tag_id = @thingId ORDER BY person_id LIMIT @limit',
    history: `INSERT INTO events (kind, at, person_id, tag_id, cause_id, detail)
      SELECT 'lost-tag', @at, person_id, tag_id, @eventId, 'deleted' FROM tag_holdings
      WHERE tag_id = @thingId AND person_id <= @to ORDER BY person_id`,
    clear: 'DELETE FROM tag_holdings WHERE tag_id = @thingId AND person_id <= @to',
  },
  'list': {
    next: 'SELECT person_id FROM list_members WHERE list_id = @thingId ORDER BY person_id LIMIT @limit',
    history: `INSERT INTO events (kind, at, person_id, list_id, cause_id, detail)
      SELECT 'left-list', @at, person_id, list_id, @eventId, 'deleted' FROM list_members
      WHERE list_id = @thingId AND person_id <= @to AND left_at IS NULL ORDER BY person_id`,
    clear: 'DELETE FROM list_members WHERE list_id = @thingId AND person_id <= @to',
  },
  'field': {
    next: 'SELECT person_id FROM field_values WHERE field_id = @thingId ORDER BY person_id LIMIT @limit',
    clear: 'DELETE FROM field_values WHERE field_id = @thingId AND person_id <= @to',
    end: 'DELETE FROM fields WHERE id = @thingId AND gone = 1',
  },
  'segment': {
    next: 'SELECT person_id FROM segment_people WHERE segment_id = @thingId ORDER BY person_id LIMIT @limit',
    clear: 'DELETE FROM segment_people WHERE segment_id = @thingId AND person_id <= @to',
    end: 'DELETE FROM segments WHERE id = @thingId AND gone = 1',
  },
  'scheduled-entries': {
    next: 'SELECT person_id FROM scheduled_entries WHERE course_id = @thingId ORDER BY person_id LIMIT @limit',
    clear: 'DELETE FROM scheduled_entries WHERE course_id = @thingId AND person_id <= @to',
  },
  // What waits to be sent to them is withdrawn with it; the last look lets nothing of it through before.
  'course': {
    next: `
      SELECT person_id FROM enrolments WHERE course_id = @thingId AND status = 'open' GROUP BY person_id ORDER BY person_id
      LIMIT @limit`,
    history: `INSERT INTO events (kind, at, person_id, course_id, cause_id, detail)
      SELECT 'left-course', @at, person_id, course_id, @eventId, 'deleted' FROM enrolments
      WHERE course_id = @thingId AND person_id <= @to AND status = 'open' ORDER BY person_id`,
    clear: [
      `UPDATE outbox SET status = 'withdrawn', go_at = NULL, reason = 'left-course', lease_owner = NULL, lease_until_at = NULL
        WHERE kind = 'course' AND owner_id = @thingId AND person_id <= @to
          AND (status IN ('queued', 'leased') OR (status = 'failed' AND go_at IS NOT NULL))`,
      `UPDATE enrolments SET status = 'left', ended_at = @at, step_id = NULL, due_at = NULL, held_since = NULL, limit_at = NULL,
        paused_at = NULL, still_since = NULL
        WHERE course_id = @thingId AND person_id <= @to AND status = 'open'`,
    ],
  },
  // Only those planned before the event: it may go by another date since.
  'entries-by-date': {
    next: `SELECT person_id FROM scheduled_entries
      WHERE course_id = @thingId AND occurs_on IS NOT NULL AND cause_id <= @eventId ORDER BY person_id LIMIT @limit`,
    clear: `
      DELETE FROM scheduled_entries WHERE course_id = @thingId AND person_id <= @to AND occurs_on IS NOT NULL
      AND cause_id <= @eventId`,
  },
}

/** Clears some more of it away, from at most `limit` people; once nobody has any, the clearing is over. */
export function clearSome(db: Database, { id, what, thingId, eventId }: Clearing & { id: number }, at: Instant, limit: number): void {
  const { next, history, clear, end } = WAYS[what]
  const found = `SELECT count(*) AS people, coalesce(max(person_id), 0) AS "to" FROM (${next})`
  const { people, to } = prepare<{ people: number, to: number }>(db, found).get({ thingId, eventId, limit })!
  if (history && eventId !== null) prepare(db, history).run({ thingId, eventId, at, to })
  for (const sql of [clear].flat()) prepare(db, sql).run({ thingId, eventId, at, to })
  if (people === limit) return
  if (end) prepare(db, end).run({ thingId })
  prepare(db, 'DELETE FROM clearings WHERE id = ?').run(id)
}
