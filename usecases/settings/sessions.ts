/** Signing in and out: what a browser keeps is worth nothing once its session has ended here. Times are the system's. */
import { createHash, randomBytes } from 'node:crypto'
import type { SessionLine } from '#core/views/settings'
import type { Instant } from '#core/time/zone'
import { immediate, writeIfFree, type Database } from '#data/connection'
import {
  allSessions, deleteAllSessions, deleteOldSessions, deleteSession, findSession, insertSession, markSeen, type SessionRow,
} from '#data/sessions'

const DAY = 86_400_000
/** A session ends so long after it was last used, and so long after it began (OWASP ASVS 5.0, 7.3). */
export const IDLE_MS = 14 * DAY
export const LONGEST_MS = 90 * DAY
/** Being seen is written down no more often than that. */
const SEEN_MS = 5 * 60_000

const digestOf = (token: string) => createHash('sha256').update(token).digest('hex')

const holds = ({ madeAt, seenAt, credential }: SessionRow, current: string, at: Instant) =>
  credential === current && at < madeAt + LONGEST_MS && at < seenAt + IDLE_MS

/** `credential` stands for the password that was given; returns what the browser is to keep. */
export function beginSession(db: Database, credential: string, at: Instant): string {
  const token = randomBytes(32).toString('base64url')
  immediate(db, () => {
    deleteOldSessions(db, { madeBefore: at - LONGEST_MS, seenBefore: at - IDLE_MS })
    insertSession(db, { digest: digestOf(token), credential, madeAt: at, seenAt: at })
  })
  return token
}

/** Whether this is a session that goes on. `credential`: of the password as it is now. */
export function isSession(db: Database, token: string, credential: string, at: Instant): boolean {
  const session = findSession(db, digestOf(token))
  if (!session || !holds(session, credential, at)) return false
  // Nobody's request waits for that.
  if (at >= session.seenAt + SEEN_MS) writeIfFree(db, () => markSeen(db, session.digest, at))
  return true
}

export function endSession(db: Database, token: string): void {
  immediate(db, () => deleteSession(db, digestOf(token)))
}

export function endAllSessions(db: Database): void {
  immediate(db, () => deleteAllSessions(db))
}

/** Those that go on, the one seen last first. */
export function sessionLines(db: Database, token: string, credential: string, at: Instant): SessionLine[] {
  const ours = digestOf(token)
  return allSessions(db).filter(session => holds(session, credential, at)).map(({ digest, madeAt, seenAt }) => ({
    madeAt, seenAt: digest === ours ? at : seenAt, isThis: digest === ours,
  }))
}
