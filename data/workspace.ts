/** The workspace itself: its settings, its carrier, the practice clock and who has been seen alive. */
import type { ConsentRule } from '#core/people/country'
import type { OddAddressRule } from '#core/people/oddAddress'
import { ALWAYS, type WeekHours } from '#core/time/hours'
import { DEFAULT_LOOK, type EmailLook } from '#core/message/look'
import type { Instant } from '#core/time/zone'
import type { Mode } from '#core/views/frame'
import type { WorkspaceSettings } from '#core/views/settings'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

export interface WorkspaceRow extends WorkspaceSettings {
  mode: Mode
  key: string
  carrierState: 'ready' | 'stopped'
  carrierReason: string | null
  carrierSinceAt: Instant | null
  carrierPauseUntilAt: Instant | null
  /** Since when its owner lets nothing leave. */
  heldSinceAt: Instant | null
  createdAt: Instant
}

/** Undefined in a file whose workspace has not been made yet. */
export function findWorkspace(db: Database): WorkspaceRow | undefined {
  return keepSteady(db, 'workspace', () => prepare<WorkspaceRow>(db, `
    SELECT w.mode, w.key, w.name, w.zone, coalesce(s.name, '') AS senderName, coalesce(s.address, '') AS senderAddress,
      w.postal_address AS postalAddress, w.smtp_url AS smtpUrl, w.currency, w.carrier_state AS carrierState,
      w.carrier_reason AS carrierReason, w.carrier_since_at AS carrierSinceAt, w.carrier_pause_until_at AS carrierPauseUntilAt,
      w.held_since_at AS heldSinceAt,
      w.created_at AS createdAt
    FROM workspace w LEFT JOIN senders s ON s.id = w.sender_id WHERE w.id = 1`).get())
}

export function workspaceOf(db: Database): WorkspaceRow {
  const row = findWorkspace(db)
  if (!row) throw new Error('This database holds no workspace yet')
  return row
}

export function insertWorkspace(db: Database, row: Pick<WorkspaceRow, 'mode' | 'key' | 'name' | 'zone' | 'createdAt'>): void {
  prepare(db, 'INSERT INTO workspace (id, mode, key, name, zone, created_at) VALUES (1, ?, ?, ?, ?, ?)').run(
    row.mode, row.key, row.name, row.zone, row.createdAt,
  )
}

/** Who its emails are from stands elsewhere (data/senders.ts). */
export function updateWorkspace(db: Database, settings: Omit<WorkspaceSettings, 'senderName' | 'senderAddress'>): void {
  prepare(db, 'UPDATE workspace SET name = ?, zone = ?, postal_address = ?, smtp_url = ?, currency = ? WHERE id = 1')
    .run(settings.name, settings.zone, settings.postalAddress, settings.smtpUrl, settings.currency)
}

/** How its designed emails look. */
export function emailLook(db: Database): EmailLook {
  return keepSteady(db, 'email look', () => {
    const { look } = prepare<{ look: string | null }>(db, 'SELECT email_look AS look FROM workspace WHERE id = 1').get()!
    return look === null ? DEFAULT_LOOK : JSON.parse(look) as EmailLook
  })
}

export function setEmailLook(db: Database, look: EmailLook): void {
  prepare(db, 'UPDATE workspace SET email_look = ? WHERE id = 1').run(JSON.stringify(look))
}

/** When emails may leave: a week of half-hours. */
export function sendingHours(db: Database): WeekHours {
  return keepSteady(db, 'hours', () =>
    prepare<{ hours: WeekHours | null }>(db, 'SELECT sending_hours AS hours FROM workspace WHERE id = 1').get()!.hours ?? ALWAYS)
}

export function setSendingHours(db: Database, hours: WeekHours): void {
  prepare(db, 'UPDATE workspace SET sending_hours = ? WHERE id = 1').run(hours === ALWAYS ? null : hours)
}

export function consentRule(db: Database): ConsentRule {
  return keepSteady(db, 'consent rule', () => {
    const row = prepare<{ countries: string, unknownNeeds: 0 | 1 }>(
      db, 'SELECT consent_countries AS countries, consent_unknown AS unknownNeeds FROM workspace WHERE id = 1').get()!
    return { countries: JSON.parse(row.countries) as string[], unknownNeeds: row.unknownNeeds === 1 }
  })
}

export function setConsentRule(db: Database, rule: ConsentRule): void {
  prepare(db, 'UPDATE workspace SET consent_countries = ?, consent_unknown = ? WHERE id = 1').run(
    JSON.stringify(rule.countries), rule.unknownNeeds ? 1 : 0,
  )
}

export function oddAddressRule(db: Database): OddAddressRule {
  return prepare<OddAddressRule>(db, 'SELECT role_addresses AS role, throwaway_addresses AS throwaway FROM workspace WHERE id = 1').get()!
}

export function setOddAddressRule(db: Database, { role, throwaway }: OddAddressRule): void {
  prepare(db, 'UPDATE workspace SET role_addresses = ?, throwaway_addresses = ? WHERE id = 1').run(role, throwaway)
}

/** Null lets everything leave again. */
export function holdSending(db: Database, sinceAt: Instant | null): void {
  prepare(db, 'UPDATE workspace SET held_since_at = ? WHERE id = 1').run(sinceAt)
}

export function stopCarrier(db: Database, reason: string, at: Instant): void {
  prepare(db, `UPDATE workspace SET carrier_state = 'stopped', carrier_reason = ?, carrier_since_at = ? WHERE id = 1`).run(reason, at)
}

export function resumeCarrier(db: Database): void {
  prepare(db, `
    UPDATE workspace SET carrier_state = 'ready', carrier_reason = NULL, carrier_since_at = NULL, carrier_pause_until_at = NULL
    WHERE id = 1`).run()
}

/** While the mail server cannot be reached nothing is handed over until `until`; null ends the pause. */
export function pauseCarrier(db: Database, until: Instant | null, reason: string | null): void {
  prepare(db, 'UPDATE workspace SET carrier_pause_until_at = ?, carrier_reason = ? WHERE id = 1').run(until, reason)
}

/** What the owner has done on the first evening that no table of a thing says. */
export const setupMarks = (db: Database): { rehearsedAt: Instant | null, hiddenAt: Instant | null } =>
  prepare<{ rehearsedAt: Instant | null, hiddenAt: Instant | null }>(
    db, 'SELECT rehearsed_at AS rehearsedAt, setup_hidden_at AS hiddenAt FROM workspace WHERE id = 1',
  ).get()!

export function markRehearsed(db: Database, at: Instant): void {
  prepare(db, 'UPDATE workspace SET rehearsed_at = ? WHERE id = 1 AND rehearsed_at IS NULL').run(at)
}

/** Null shows it again. */
export function hideSetup(db: Database, at: Instant | null): void {
  prepare(db, 'UPDATE workspace SET setup_hidden_at = ? WHERE id = 1').run(at)
}

export interface PracticeClock { nowAt: Instant, targetAt: Instant }

export function practiceClock(db: Database): PracticeClock | undefined {
  return prepare<PracticeClock>(db, 'SELECT now_at AS nowAt, target_at AS targetAt FROM practice_clock WHERE id = 1').get()
}

export function insertPracticeClock(db: Database, at: Instant): void {
  prepare(db, 'INSERT INTO practice_clock (id, now_at, target_at) VALUES (1, ?, ?)').run(at, at)
}

/** The clock only goes forward: an earlier time changes nothing. */
export function askPracticeClock(db: Database, targetAt: Instant): void {
  prepare(db, 'UPDATE practice_clock SET target_at = max(target_at, ?) WHERE id = 1').run(targetAt)
}

/** Sets the clock to `at`, never back and never past where it was asked to go. */
export function setPracticeClock(db: Database, at: Instant): void {
  prepare(db, 'UPDATE practice_clock SET now_at = max(now_at, min(?, target_at)) WHERE id = 1').run(at)
}

export interface Heartbeat { process: string, seenAt: Instant, startedAt: Instant, version: string }

export function beat(db: Database, heartbeat: Heartbeat): void {
  prepare(db, `INSERT INTO heartbeats (process, seen_at, started_at, version) VALUES (?, ?, ?, ?)
    ON CONFLICT (process) DO UPDATE SET seen_at = excluded.seen_at, started_at = excluded.started_at, version = excluded.version`)
    .run(heartbeat.process, heartbeat.seenAt, heartbeat.startedAt, heartbeat.version)
}

export function heartbeatOf(db: Database, process: string): Heartbeat | undefined {
  return prepare<Heartbeat>(
    db, 'SELECT process, seen_at AS seenAt, started_at AS startedAt, version FROM heartbeats WHERE process = ?',
  ).get(process)
}
