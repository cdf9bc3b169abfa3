/** Browsers that are signed in. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface SessionRow { digest: string, credential: string, madeAt: Instant, seenAt: Instant }

const SESSION = 'SELECT digest, credential, made_at AS madeAt, seen_at AS seenAt FROM sessions'

export function findSession(db: Database, digest: string): SessionRow | undefined {
  return prepare<SessionRow>(db, `${SESSION} WHERE digest = ?`).get(digest)
}

export function allSessions(db: Database): SessionRow[] {
  return prepare<SessionRow>(db, `${SESSION} ORDER BY seen_at DESC, digest`).all()
}

export function insertSession(db: Database, { digest, credential, madeAt, seenAt }: SessionRow): void {
  prepare(db, 'INSERT INTO sessions (digest, credential, made_at, seen_at) VALUES (?, ?, ?, ?)').run(digest, credential, madeAt, seenAt)
}

export function markSeen(db: Database, digest: string, at: Instant): void {
  prepare(db, 'UPDATE sessions SET seen_at = ? WHERE digest = ?').run(at, digest)
}

export function deleteSession(db: Database, digest: string): void {
  prepare(db, 'DELETE FROM sessions WHERE digest = ?').run(digest)
}

export function deleteAllSessions(db: Database): void {
  prepare(db, 'DELETE FROM sessions').run()
}

/** Those made, or last seen, before. */
export function deleteOldSessions(db: Database, { madeBefore, seenBefore }: { madeBefore: Instant, seenBefore: Instant }): void {
  prepare(db, 'DELETE FROM sessions WHERE made_at < ? OR seen_at < ?').run(madeBefore, seenBefore)
}
