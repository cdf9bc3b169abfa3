/** Broadcasts: as they are written, and as they were scheduled. */
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { CLAIMED, emailsOfSend, type SendState } from './sends'

export interface BroadcastRow {
  id: number
  name: string
  draft: BroadcastDraft
  /** As it was scheduled or sent; null while it is a draft. */
  scheduled: BroadcastDraft | null
  sendId: number | null
  /** That of its send; `draft` while it has none. */
  state: 'draft' | Exclude<SendState, 'open'>
  dueAt: Instant | null
  heldUntilAt: Instant | null
  /** Since when it stands on the public page. */
  sharedAt: Instant | null
  madeAt: Instant
  changedAt: Instant
}

type Raw = Omit<BroadcastRow, 'draft' | 'scheduled'> & { draft: string, scheduled: string | null }

const BROADCAST = `
  SELECT b.id, b.name, b.draft, b.scheduled, b.send_id AS sendId, coalesce(s.state, 'draft') AS state, s.due_at AS dueAt,
    s.held_until_at AS heldUntilAt, b.shared_at AS sharedAt, b.made_at AS madeAt, b.changed_at AS changedAt
  FROM broadcasts b LEFT JOIN sends s ON s.id = b.send_id WHERE b.gone_at IS NULL`

const parse = ({ draft, scheduled, ...row }: Raw): BroadcastRow => ({
  ...row, draft: JSON.parse(draft) as BroadcastDraft, scheduled: scheduled === null ? null : JSON.parse(scheduled) as BroadcastDraft,
})

/** What was made last comes first. */
export const allBroadcasts = (db: Database): BroadcastRow[] =>
  prepare<Raw>(db, `${BROADCAST} ORDER BY b.id DESC`).all().map(parse)

export function findBroadcast(db: Database, id: number): BroadcastRow | undefined {
  const row = prepare<Raw>(db, `${BROADCAST} AND b.id = ?`).get(id)
  return row && parse(row)
}

export const broadcastNames = (db: Database): { id: number, name: string }[] =>
  prepare<{ id: number, name: string }>(db, 'SELECT id, name FROM broadcasts WHERE gone_at IS NULL ORDER BY id DESC').all()

export const countBroadcasts = (db: Database): number =>
  prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM broadcasts WHERE gone_at IS NULL').get()!.n

export const insertBroadcast = (db: Database, { name, draft, at }: { name: string, draft: BroadcastDraft, at: Instant }): number =>
  Number(prepare(db, 'INSERT INTO broadcasts (name, draft, made_at, changed_at) VALUES (?, ?, ?, ?)')
    .run(name, JSON.stringify(draft), at, at).lastInsertRowid)

export function updateBroadcast(db: Database, id: number, { name, draft, at }: { name: string, draft: BroadcastDraft, at: Instant }): void {
  prepare(db, 'UPDATE broadcasts SET name = ?, draft = ?, changed_at = ? WHERE id = ?').run(name, JSON.stringify(draft), at, id)
}

/** What it is to be sent as, by which send; null for a draft. */
export function setScheduled(db: Database, id: number, scheduled: { draft: BroadcastDraft, sendId: number } | null): void {
  prepare(db, 'UPDATE broadcasts SET scheduled = ?, send_id = ? WHERE id = ?')
    .run(scheduled && JSON.stringify(scheduled.draft), scheduled?.sendId ?? null, id)
}

/** Null takes it from the public page. */
export const setShared = (db: Database, id: number, at: Instant | null): unknown =>
  prepare(db, 'UPDATE broadcasts SET shared_at = ? WHERE id = ?').run(at, id)

/* Copies by a link */

export const copyCodeOf = (db: Database, id: number): string | null =>
  prepare<{ code: string | null }>(db, 'SELECT copy_code AS code FROM broadcasts WHERE id = ?').get(id)?.code ?? null

export const setCopyCode = (db: Database, id: number, code: string | null): unknown =>
  prepare(db, 'UPDATE broadcasts SET copy_code = ? WHERE id = ?').run(code, id)

export const broadcastOfCopyCode = (db: Database, code: string): number | null =>
  prepare<{ id: number }>(db, 'SELECT id FROM broadcasts WHERE copy_code = ? AND gone_at IS NULL').get(code)?.id ?? null

/** Null puts back one that was deleted. */
export const setBroadcastGone = (db: Database, id: number, at: Instant | null): unknown =>
  prepare(db, 'UPDATE broadcasts SET gone_at = ? WHERE id = ?').run(at, id)

/* What became of its emails */

/** Emails of a send, by where they stand. `waiting`: to go at their time, or for their owner. */
export interface SendProgress { handedOver: number, heldBack: number, withdrawn: number, failed: number, waiting: number }

export function progressOf(db: Database, sendId: number): SendProgress {
  const { all, ...progress } = prepare<Omit<SendProgress, 'withdrawn'> & { all: number }>(db, `
    SELECT (SELECT count(*) FROM outbox WHERE send_id = @sendId AND person_id IS NOT NULL) AS "all",
      (SELECT count(*) FROM ${emailsOfSend('outbox_sent')} AND o.handed_over_at IS NOT NULL) AS handedOver,
      (SELECT count(*) FROM ${emailsOfSend('outbox_held_back')} AND o.status = 'held back') AS heldBack,
      (SELECT count(*) FROM outbox WHERE send_id = @sendId AND ${OPEN} AND status = 'failed' AND go_at IS NULL) AS failed,
      (SELECT count(*) FROM outbox WHERE send_id = @sendId AND ${OPEN} AND (status = 'queued' OR go_at IS NOT NULL))
        + (SELECT count(*) FROM ${CLAIMED} AND send_id = @sendId) AS waiting`).get({ sendId })!
  return { ...progress, withdrawn: all - progress.handedOver - progress.heldBack - progress.failed - progress.waiting }
}

/** Worded like the index outbox_waiting_by_send, so that it is used. */
const OPEN = `status IN ('queued', 'failed')`

/** How many of its emails were opened by their reader, how many were clicked, and by how many somebody left. */
export const readBy = (db: Database, sendId: number): { opened: number, clicked: number, left: number } =>
  prepare<{ opened: number, clicked: number, left: number }>(db, `
    SELECT count(opened_at) AS opened, count(clicked_at) AS clicked, count(left_at) AS left FROM outbox WHERE send_id = ?
      AND handed_over_at IS NOT NULL`).get(sendId)!

/** Zones of people who have one. */
export const zonesOfPeople = (db: Database): string[] =>
  prepare<{ zone: string }>(db, 'SELECT DISTINCT zone FROM people WHERE zone IS NOT NULL AND gone IS NULL').all().map(({ zone }) => zone)
