/** Keys by which programs come in, and answers kept so that a repeated request is one. */
import type { KeyLine, Scope } from '#core/views/keys'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

type Raw = Omit<KeyLine, 'scopes'> & { scopes: string }
const KEY = 'SELECT id, name, hint, scopes, made_at AS madeAt, last_used_at AS lastUsedAt FROM api_keys'
const parse = (row: Raw): KeyLine => ({ ...row, scopes: JSON.parse(row.scopes) as Scope[] })

export function allKeys(db: Database): KeyLine[] {
  return prepare<Raw>(db, `${KEY} WHERE ended_at IS NULL ORDER BY id`).all().map(parse)
}

export function findKeyByDigest(db: Database, digest: string): KeyLine | undefined {
  const row = prepare<Raw>(db, `${KEY} WHERE digest = ? AND ended_at IS NULL`).get(digest)
  return row && parse(row)
}

export function insertKey(db: Database, row: { name: string, digest: string, hint: string, scopes: Scope[], at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO api_keys (name, digest, hint, scopes, made_at) VALUES (?, ?, ?, ?, ?)').run(
    row.name, row.digest, row.hint, JSON.stringify(row.scopes), row.at,
  ).lastInsertRowid)
}

export function endKey(db: Database, id: number, at: Instant): boolean {
  return prepare(db, 'UPDATE api_keys SET ended_at = ? WHERE id = ? AND ended_at IS NULL').run(at, id).changes === 1
}

export function markUsed(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE api_keys SET last_used_at = ? WHERE id = ?').run(at, id)
}

export interface KeptAnswer { requestDigest: string, status: number, body: string }

export function findAnswer(db: Database, keyId: number, idempotencyKey: string): KeptAnswer | undefined {
  return prepare<KeptAnswer>(
    db, 'SELECT request_digest AS requestDigest, status, body FROM api_answers WHERE key_id = ? AND idempotency_key = ?',
  ).get(keyId, idempotencyKey)
}

/** Answers older than `forgetBefore` are let go. */
export function keepAnswer(
  db: Database, row: KeptAnswer & { keyId: number, idempotencyKey: string, at: Instant }, forgetBefore: Instant,
): void {
  prepare(db, 'DELETE FROM api_answers WHERE at < ?').run(forgetBefore)
  prepare(db, 'INSERT INTO api_answers (key_id, idempotency_key, request_digest, status, body, at) VALUES (?, ?, ?, ?, ?, ?)').run(
    row.keyId, row.idempotencyKey, row.requestDigest, row.status, row.body, row.at,
  )
}
