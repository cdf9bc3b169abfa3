/** The mail server as it has answered so far: refusals and waves of them, domains that stand still, how fast it lets us go. */
import type { Refusal } from '#core/sending/verdict'
import { WAVE_RULE, type Answered, type WaveRule } from '#core/sending/wave'
import { DAY, MINUTE, type Instant } from '#core/time/zone'
import type { SendingPace } from '#core/sending/pace'
import type { StoodBefore } from './choices'
import type { Database } from './connection'
import { databaseTrouble, prepare, immediate } from './connection'

/* How fast */

export interface Slowed { to: number, at: Instant, said: string }

export function sendingPace(db: Database): SendingPace {
  return prepare<SendingPace>(
    db, 'SELECT smtp_connections AS connections, smtp_messages AS messages, smtp_a_minute AS aMinute FROM workspace WHERE id = 1',
  ).get()!
}

/** Connections at a time, just now: the owner's limit, or fewer when the server asks for it. */
export const connectionsNow = (db: Database): number => Math.min(sendingPace(db).connections, slowedTo(db)?.to ?? Number.POSITIVE_INFINITY)

export function setSendingPace(db: Database, pace: SendingPace): void {
  prepare(
    db, 'UPDATE workspace SET smtp_connections = @connections, smtp_messages = @messages, smtp_a_minute = @aMinute WHERE id = 1',
  ).run(pace)
}

/** What the server asked us to slow down to; null while it takes what we send. */
export function slowedTo(db: Database): Slowed | null {
  return prepare<Slowed>(
    db, 'SELECT slowed_to AS "to", slowed_at AS at, slowed_said AS said FROM workspace WHERE id = 1 AND slowed_to IS NOT NULL',
  ).get() ?? null
}

export function setSlowed(db: Database, slowed: Slowed | null): void {
  prepare(db, 'UPDATE workspace SET slowed_to = ?, slowed_at = ?, slowed_said = ? WHERE id = 1').run(
    slowed?.to ?? null, slowed?.at ?? null, slowed?.said ?? null,
  )
}

/* What it can */

/** Whether it takes letters beyond ASCII before the @; null before it was asked. */
export function takesUtf8(db: Database): boolean | null {
  const { takes } = prepare<{ takes: 0 | 1 | null }>(db, 'SELECT smtp_takes_utf8 AS takes FROM workspace WHERE id = 1').get()!
  return takes === null ? null : takes === 1
}

/**
 * What a mail server says of itself at each connection. What cannot be written
 * down now is learnt at the next, and costs no email its connection.
 */
export function learnTakesUtf8(db: Database, takes: boolean): void {
  if (takesUtf8(db) === takes) return
  try {
    immediate(db, () => prepare(db, 'UPDATE workspace SET smtp_takes_utf8 = ? WHERE id = 1').run(takes ? 1 : 0))
  }
  catch (error) {
    if (databaseTrouble(error) === null) throw error
  }
}

export function setUnreachable(db: Database, personId: number, since: Instant | null): void {
  prepare(
    db, 'UPDATE people SET unreachable_since = CASE WHEN ? IS NULL THEN NULL ELSE coalesce(unreachable_since, ?) END WHERE id = ?',
  ).run(since, since, personId)
}

export function unreachableSince(db: Database, personId: number): Instant | null {
  return prepare<{ at: Instant | null }>(db, 'SELECT unreachable_since AS at FROM people WHERE id = ?').get(personId)?.at ?? null
}

/* Answers */

export function waveRule(db: Database): WaveRule {
  const { rule } = prepare<{ rule: string | null }>(db, 'SELECT wave_rule AS rule FROM workspace WHERE id = 1').get()!
  return rule === null ? WAVE_RULE : JSON.parse(rule) as WaveRule
}

export function setWaveRule(db: Database, rule: WaveRule): void {
  prepare(db, 'UPDATE workspace SET wave_rule = ? WHERE id = 1').run(JSON.stringify(rule))
}

export interface AnswerRow {
  at: Instant, domain: string, outboxId: number, personId: number | null, about: Refusal | 'accepted', said: string,
  before: StoodBefore | null,
}

export function insertAnswer(db: Database, { before, ...row }: AnswerRow): number {
  return Number(prepare(db, `
    INSERT INTO mail_answers (at, domain, outbox_id, person_id, about, said, before)
    VALUES (@at, @domain, @outboxId, @personId, @about, @said, @before)`)
    .run({ ...row, before: before && JSON.stringify(before) }).lastInsertRowid)
}

/** Newest first: all of the last minutes, and the last so many of that domain. */
export function answersFor(db: Database, domain: string, now: Instant, { minutes, lastOfDomain }: WaveRule): Answered[] {
  const columns = 'id, at, domain, about'
  return prepare<Answered>(db, `
    SELECT ${columns} FROM (SELECT ${columns} FROM mail_answers WHERE at >= @since AND undone = 0
      UNION SELECT ${columns}
        FROM (SELECT ${columns} FROM mail_answers WHERE domain = @domain AND undone = 0 ORDER BY id DESC LIMIT @last)) ORDER BY id DESC`)
    .all({ since: now - minutes * MINUTE, domain, last: lastOfDomain })
}

export interface Refused { id: number, outboxId: number, personId: number | null, before: StoodBefore | null }

export function refusedIn(db: Database, ids: readonly number[]): Refused[] {
  return prepare<Omit<Refused, 'before'> & { before: string | null }>(db, `
    SELECT id, outbox_id AS outboxId, person_id AS personId, before FROM mail_answers WHERE id IN (SELECT value FROM json_each(?))
    ORDER BY id`)
    .all(JSON.stringify(ids)).map(row => ({ ...row, before: row.before === null ? null : JSON.parse(row.before) as StoodBefore }))
}

/** What was undone counts for nothing any more. */
export function markAnswersUndone(db: Database, ids: readonly number[]): void {
  prepare(db, 'UPDATE mail_answers SET undone = 1, before = NULL WHERE id IN (SELECT value FROM json_each(?))').run(JSON.stringify(ids))
}

/** When emails to someone were refused for their mailbox or without a reason. */
export function softRefusals(db: Database, personId: number, since: Instant): Instant[] {
  return prepare<{ at: Instant }>(
    db, `SELECT at FROM mail_answers WHERE person_id = ? AND about IN ('mailbox', 'unclear') AND undone = 0 AND at > ? ORDER BY at`,
  ).all(personId, since).map(({ at }) => at)
}

const KEPT_DAYS = 60

export function forgetOldAnswers(db: Database, now: Instant): void {
  prepare(db, 'DELETE FROM mail_answers WHERE at < ?').run(now - KEPT_DAYS * DAY)
}

/* Domains that stand still */

export interface StoppedDomain { domain: string, reason: string, sinceAt: Instant }

export function stoppedDomains(db: Database): (StoppedDomain & { waiting: number })[] {
  return prepare<StoppedDomain & { waiting: number }>(db, `
    SELECT d.domain, d.reason, d.since_at AS sinceAt, (SELECT count(*) FROM outbox o JOIN people p ON p.id = o.person_id
      WHERE o.status = 'queued' AND o.go_at IS NULL AND o.reason = 'domain stopped'
        AND substr(p.address_key, instr(p.address_key, '@') + 1) = d.domain) AS waiting
    FROM stopped_domains d ORDER BY d.since_at`).all()
}

export const isStopped = (db: Database, domain: string): boolean =>
  prepare(db, 'SELECT 1 FROM stopped_domains WHERE domain = ?').get(domain) !== undefined

export function stopDomain(db: Database, row: StoppedDomain): void {
  prepare(db, 'INSERT OR IGNORE INTO stopped_domains (domain, reason, since_at) VALUES (@domain, @reason, @sinceAt)').run(row)
}

export function resumeDomain(db: Database, domain: string): boolean {
  return prepare(db, 'DELETE FROM stopped_domains WHERE domain = ?').run(domain).changes === 1
}
