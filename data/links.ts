/** The library of tracked links, and who followed them. */
import type { Action } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export interface LinkInput {
  name: string
  url: string
  note: string
  /** What following it brings, wherever it stands. */
  does: Action[]
  /** Only after a second click on our page. */
  asks: boolean
}

export interface LinkRow extends LinkInput {
  id: number
  madeAt: Instant
  lookedAt: Instant | null
  /** Why the destination did not answer, the last time it was looked at; null while it does. */
  trouble: string | null
  troubleSinceAt: Instant | null
}

type Raw = Omit<LinkRow, 'does' | 'asks'> & { does: string, asks: 0 | 1 }

const LINK = 'SELECT id, name, url, note, does, asks, made_at AS madeAt, looked_at AS lookedAt, trouble, trouble_since_at AS troubleSinceAt FROM links'
const parse = (row: Raw): LinkRow => ({ ...row, does: JSON.parse(row.does) as Action[], asks: row.asks === 1 })

export function allLinks(db: Database): LinkRow[] {
  return q<Raw>(db, `${LINK} WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE, id`).all().map(parse)
}

/** Also one that was taken out of the library: emails that have it still lead by it. */
export function findLink(db: Database, id: number): LinkRow | undefined {
  const row = q<Raw>(db, `${LINK} WHERE id = ?`).get(id)
  return row && parse(row)
}

export function linkNames(db: Database): { id: number, name: string }[] {
  return q<{ id: number, name: string }>(db, 'SELECT id, name FROM links WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE').all()
}

export function isInLibrary(db: Database, id: number): boolean {
  return q(db, 'SELECT 1 FROM links WHERE id = ? AND ended_at IS NULL').get(id) !== undefined
}

export function insertLink(db: Database, link: LinkInput, at: Instant): number {
  return Number(q(db, 'INSERT INTO links (name, url, note, does, asks, made_at, changed_at, look_due_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)')
    .run(link.name, link.url, link.note, JSON.stringify(link.does), link.asks ? 1 : 0, at, at, at).lastInsertRowid)
}

/** Another destination is looked at soon. */
export function updateLink(db: Database, id: number, link: LinkInput, at: Instant): void {
  q(db, `UPDATE links SET look_due_at = CASE WHEN url = @url THEN look_due_at ELSE @at END, trouble = CASE WHEN url = @url THEN trouble END, trouble_since_at = CASE WHEN url = @url THEN trouble_since_at END,
    name = @name, url = @url, note = @note, does = @does, asks = @asks, changed_at = @at WHERE id = @id`)
    .run({ id, at, name: link.name, url: link.url, note: link.note, does: JSON.stringify(link.does), asks: link.asks ? 1 : 0 })
}

export function endLink(db: Database, id: number, at: Instant): void {
  q(db, 'UPDATE links SET ended_at = ?, look_due_at = NULL WHERE id = ?').run(at, id)
}

/** The link of the library for an address that was typed in an email; made there if there is none yet. */
export function linkForUrl(db: Database, url: string, label: string, at: Instant): number {
  const known = q<{ id: number }>(db, 'SELECT id FROM links WHERE url = ? AND ended_at IS NULL ORDER BY id LIMIT 1').get(url)?.id
  return known ?? insertLink(db, { name: label.trim().slice(0, 80) || url.slice(0, 80), url, note: '', does: [], asks: false }, at)
}
