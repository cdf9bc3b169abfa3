/** Addresses someone had before, and making two records one. */
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { mergeScores } from './scores'

export interface FormerAddress { address: string, untilAt: Instant }

export function formerAddresses(db: Database, personId: number): FormerAddress[] {
  return prepare<FormerAddress>(
    db, 'SELECT address, until_at AS untilAt FROM former_addresses WHERE person_id = ? ORDER BY until_at DESC, id DESC',
  ).all(personId)
}

/** Who had this address last; undefined for nobody. */
export function findByFormerKey(db: Database, addressKey: string): number | undefined {
  return prepare<{ id: number }>(
    db, 'SELECT person_id AS id FROM former_addresses WHERE address_key = ? ORDER BY until_at DESC, id DESC LIMIT 1',
  ).get(addressKey)?.id
}

export function insertFormerAddress(
  db: Database, row: { personId: number, address: string, addressKey: string, untilAt: Instant, eventId: number },
): void {
  prepare(db, 'INSERT INTO former_addresses (person_id, address, address_key, until_at, event_id) VALUES (?, ?, ?, ?, ?)').run(
    row.personId, row.address, row.addressKey, row.untilAt, row.eventId,
  )
}

export function setAddress(db: Database, id: number, { shown, key }: { shown: string, key: string }): void {
  prepare(db, `UPDATE people SET address = ?, address_key = ?, search_text = ? || ' ' || fold(first_name) WHERE id = ?`).run(
    shown, key, key, id,
  )
}

/** Journeys of one person to another, behind those the other made. */
function moveJourneys(db: Database, from: number, into: number): void {
  const courses = prepare<{ courseId: number, after: number }>(db, `
    SELECT course_id AS courseId,
      (SELECT coalesce(max(visit), 0) FROM enrolments e WHERE e.course_id = f.course_id AND e.person_id = @into) AS after
    FROM enrolments f WHERE person_id = @from GROUP BY course_id`).all({ from, into })
  for (const { courseId, after } of courses) {
    prepare(db, `UPDATE outbox SET person_id = ?, occasion = (CAST(occasion AS INTEGER) + ?) || ltrim(occasion, '0123456789')
      WHERE kind = 'course' AND owner_id = ? AND person_id = ?`).run(into, after, courseId, from)
    prepare(db, 'UPDATE enrolments SET person_id = ?, visit = visit + ? WHERE course_id = ? AND person_id = ?').run(
      into, after, courseId, from,
    )
  }
}

/** What comes of pages: its visits are numbers that no two people share. */
const MAIL_OF_PAGES = `UPDATE outbox SET person_id = @into WHERE kind <> 'course' AND person_id = @from`

const TAKEN_OVER = [
  MAIL_OF_PAGES,
  'UPDATE confirmations SET person_id = @into WHERE person_id = @from',
  'UPDATE checkouts SET person_id = @into WHERE person_id = @from',
  'UPDATE purchases SET person_id = @into WHERE person_id = @from',
  // Leaving is the stricter word: what either has said no more of is not told to the one.
  `
    INSERT OR IGNORE INTO said_no_more (offer_id, person_id, at, event_id) SELECT offer_id, @into, at, event_id FROM said_no_more
    WHERE person_id = @from`,
  'DELETE FROM said_no_more WHERE person_id = @from',
  // Who waited longer keeps that place in the line.
  `UPDATE waits SET confirmed_at = min(confirmed_at, (SELECT f.confirmed_at FROM waits f
    WHERE f.offer_id = waits.offer_id AND f.person_id = @from
      AND f.confirmed_at IS NOT NULL AND f.told_at IS NULL AND f.ended_at IS NULL))
    WHERE person_id = @into AND confirmed_at IS NOT NULL AND told_at IS NULL AND ended_at IS NULL AND offer_id IN (
      SELECT offer_id FROM waits WHERE person_id = @from AND confirmed_at IS NOT NULL AND told_at IS NULL AND ended_at IS NULL)`,
  // What one has confirmed takes the place of what the other has not.
  `DELETE FROM waits WHERE person_id = @into AND confirmed_at IS NULL AND told_at IS NULL AND ended_at IS NULL AND offer_id IN (
    SELECT offer_id FROM waits WHERE person_id = @from AND told_at IS NULL AND ended_at IS NULL)`,
  'UPDATE OR IGNORE waits SET person_id = @into WHERE person_id = @from',
  'DELETE FROM waits WHERE person_id = @from',
  'DELETE FROM undos WHERE person_id = @from',
  `
    DELETE FROM address_changes WHERE person_id = @from
    AND NOT EXISTS (SELECT 1 FROM outbox o WHERE o.kind = 'address' AND CAST(o.occasion AS INTEGER) = address_changes.id)`,
  'UPDATE address_changes SET person_id = @into WHERE person_id = @from',
  // A tag since the earlier, and for as long as the longer of the two.
  `INSERT INTO tag_holdings (tag_id, person_id, since_at, expires_at, event_id)
    SELECT tag_id, @into, since_at, expires_at, event_id FROM tag_holdings WHERE person_id = @from
    ON CONFLICT (tag_id, person_id) DO UPDATE SET since_at = min(since_at, excluded.since_at),
      expires_at = CASE WHEN expires_at IS NULL OR excluded.expires_at IS NULL THEN NULL ELSE max(expires_at, excluded.expires_at) END`,
  'DELETE FROM tag_holdings WHERE person_id = @from',
  // A list that either has left is left.
  `INSERT INTO list_members (list_id, person_id, joined_at, left_at, event_id)
    SELECT list_id, @into, joined_at, left_at, event_id FROM list_members WHERE person_id = @from
    ON CONFLICT (list_id, person_id) DO UPDATE SET left_at = coalesce(left_at, excluded.left_at),
      joined_at = min(joined_at, excluded.joined_at)`,
  'DELETE FROM list_members WHERE person_id = @from',
  'INSERT OR IGNORE INTO field_values (field_id, person_id, value) SELECT field_id, @into, value FROM field_values WHERE person_id = @from',
  'DELETE FROM field_values WHERE person_id = @from',
  'UPDATE consents SET person_id = @into WHERE person_id = @from',
  'UPDATE OR REPLACE opt_ins SET person_id = @into WHERE person_id = @from',
  'UPDATE opt_ins SET passed_by = CASE person_id WHEN @into THEN NULL ELSE @into END WHERE passed_by = @from',
  // What brought either first, and what brought either latest.
  `UPDATE people SET first_touch_id = (SELECT touch_id FROM opt_ins WHERE person_id = @into AND touch_id IS NOT NULL ORDER BY at, event_id
    LIMIT 1),
    latest_touch_id = (SELECT touch_id
      FROM opt_ins WHERE person_id = @into AND touch_id IS NOT NULL ORDER BY at DESC, event_id DESC
        LIMIT 1) WHERE id = @into AND @from IS NOT NULL`,
  'UPDATE rule_firings SET person_id = @into WHERE person_id = @from',
  'UPDATE given_points SET person_id = @into WHERE person_id = @from',
  'UPDATE todos SET person_id = @into WHERE person_id = @from',
  'UPDATE notices SET person_id = @into WHERE person_id = @from',
  'UPDATE former_addresses SET person_id = @into WHERE person_id = @from',
  'UPDATE OR IGNORE invented_readers SET person_id = @into WHERE person_id = @from',
  'DELETE FROM invented_readers WHERE person_id = @from',
  'DELETE FROM segment_people WHERE person_id = @from',
  'DELETE FROM segment_queue WHERE person_id = @from',
  'UPDATE OR IGNORE scheduled_entries SET person_id = @into WHERE person_id = @from',
  'DELETE FROM scheduled_entries WHERE person_id = @from',
]

/** What the one has becomes the other's. Open journeys that both are on must have been ended first. */
export function takeOver(db: Database, from: number, into: number, status: Status): void {
  moveJourneys(db, from, into)
  mergeScores(db, from, into)
  for (const sql of TAKEN_OVER) prepare(db, sql).run(sql.includes('@into') ? { from, into } : { from })
  prepare(db, `UPDATE people SET status = @status,
      name_typed = CASE WHEN people.first_name = '' THEN o.name_typed ELSE people.name_typed END,
      first_name = CASE WHEN people.first_name = '' THEN o.first_name ELSE people.first_name END,
      zone = coalesce(people.zone, o.zone), country = coalesce(people.country, o.country),
      source = CASE WHEN o.created_at < people.created_at THEN o.source ELSE people.source END,
        created_at = min(people.created_at, o.created_at),
      consent_at = max(coalesce(people.consent_at, o.consent_at), coalesce(o.consent_at, people.consent_at)),
      read_at = max(coalesce(people.read_at, o.read_at), coalesce(o.read_at, people.read_at)),
      fetched_at = max(coalesce(people.fetched_at, o.fetched_at), coalesce(o.fetched_at, people.fetched_at))
    FROM people AS o WHERE o.id = @from AND people.id = @into`).run({ from, into, status })
  prepare(db, `UPDATE people SET search_text = address_key || ' ' || fold(first_name) WHERE id = ?`).run(into)
  prepare(db, `
    UPDATE people
    SET gone = 'merged', merged_into = ?, address = '', address_key = 'merged ' || id, search_text = '', first_name = '', zone = NULL,
      country = NULL
    WHERE id = ?`).run(into, from)
}
