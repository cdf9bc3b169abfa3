/** What stands in the outbox, for tests that ask who got what. */
import type { SendKindName } from '#core/sending/kinds'
import type { Database } from '#data/connection'

export interface SentRow { address: string, status: string, reason: string | null, handedOverAt: number | null }

export const allEmails = (db: Database, { kind, ownerId }: { kind: SendKindName, ownerId: number }): SentRow[] => db.prepare(`
  SELECT p.address, o.status, o.reason, o.handed_over_at AS handedOverAt FROM outbox o JOIN people p ON p.id = o.person_id
  WHERE o.kind = ? AND o.owner_id = ? ORDER BY o.id`).all(kind, ownerId) as SentRow[]
