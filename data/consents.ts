/** Consent as it was given. */
import type { Instant } from '#core/time/zone'
import type { ToldConsent } from '#core/views/people'
import type { Database } from './connection'
import { prepare } from './connection'

export interface ConsentRow {
  personId: number
  eventId: number
  /** Null where it was not given on a page of ours; then the origin says where, in words. */
  pageVersionId: number | null
  origin: string
  wording: string
  at: Instant
  /** When they said yes by email; null where they were not asked. */
  confirmedAt: Instant | null
  ip: string | null
  zone: string | null
}

export function insertConsent(db: Database, row: ConsentRow): void {
  prepare(db, `
    INSERT INTO consents (person_id, event_id, page_version_id, origin, wording, at, confirmed_at, ip, zone)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`)
    .run(row.personId, row.eventId, row.pageVersionId, row.origin, row.wording, row.at, row.confirmedAt, row.ip, row.zone)
  const countsFrom = row.confirmedAt ?? row.at
  prepare(db, 'UPDATE people SET consent_at = ? WHERE id = ? AND (consent_at IS NULL OR consent_at < ?)').run(
    countsFrom, row.personId, countsFrom,
  )
}

export function consentsOfPerson(db: Database, personId: number): ToldConsent[] {
  return prepare<ToldConsent>(db, `
    SELECT c.wording, c.at, c.confirmed_at AS confirmedAt, c.ip, c.zone, c.origin, p.name AS pageName, v.number AS pageVersion
    FROM consents c LEFT JOIN page_versions v ON v.id = c.page_version_id LEFT JOIN pages p ON p.id = v.page_id
    WHERE c.person_id = ? ORDER BY c.at DESC, c.id DESC`).all(personId)
}

/** Active people without consent on record in these countries; active people of unknown country, and those of them without. */
export function countConsents(db: Database, countries: readonly string[]): { heldBack: number, unknown: number, unknownWithout: number } {
  return prepare<{ heldBack: number, unknown: number, unknownWithout: number }>(db, `
    SELECT coalesce(sum(consent_at IS NULL AND country IN (SELECT value FROM json_each(?))), 0) AS heldBack,
      coalesce(sum(country IS NULL), 0) AS unknown, coalesce(sum(country IS NULL AND consent_at IS NULL), 0) AS unknownWithout
    FROM people WHERE status = 'active' AND gone IS NULL`).get(JSON.stringify(countries))!
}
