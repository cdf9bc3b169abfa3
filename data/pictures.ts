/** Pictures of pages, each in the few sizes that are shown. */
import type { PictureView } from '#core/page/picture'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

/** What stands in the place of a width: the cut in which an address is shared, and the form that mail programs show. */
const FORMS = { share: 0, mail: -1 } as const

interface Raw extends Omit<PictureView, 'widths'> { widths: string }

export function pictureIds(db: Database): number[] {
  return prepare<{ id: number }>(db, 'SELECT id FROM pictures ORDER BY id').all().map(({ id }) => id)
}

export function picturesByIds(db: Database, ids: readonly number[]): PictureView[] {
  return prepare<Raw>(db, `
    SELECT p.id, p.name, p.width, p.height,
      (SELECT json_group_array(s.width ORDER BY s.width) FROM picture_sizes s WHERE s.picture_id = p.id AND s.width > 0) AS widths
    FROM pictures p WHERE p.id IN (SELECT value FROM json_each(?))
      ORDER BY p.id`).all(JSON.stringify(ids)).map(row => ({ ...row, widths: JSON.parse(row.widths) as number[] }))
}

export function contentOfPicture(db: Database, id: number, size: number | keyof typeof FORMS): Uint8Array | undefined {
  return prepare<{ content: Uint8Array }>(db, 'SELECT content FROM picture_sizes WHERE picture_id = ? AND width = ?').get(
    id, typeof size === 'number' ? size : FORMS[size],
  )?.content
}

/** In bytes, as mail programs fetch it; before it was made for them, the largest of its sizes. */
export const mailWeightOf = (db: Database, id: number): number => prepare<{ bytes: number | null }>(db, `
  SELECT coalesce(max(CASE WHEN width = ${FORMS.mail} THEN length(content) END), max(CASE WHEN width > 0 THEN length(content) END)) AS bytes
  FROM picture_sizes WHERE picture_id = ?`).get(id)?.bytes ?? 0

export interface NewPicture {
  name: string, width: number, height: number, sizes: { width: number, content: Uint8Array }[], share: Uint8Array, at: Instant,
}

export function insertPicture(db: Database, { name, width, height, sizes, share, at }: NewPicture): number {
  const id = Number(
    prepare(db, 'INSERT INTO pictures (name, width, height, created_at) VALUES (?, ?, ?, ?)').run(name, width, height, at).lastInsertRowid,
  )
  for (const size of [...sizes, { width: FORMS.share, content: share }]) {
    prepare(db, 'INSERT INTO picture_sizes (picture_id, width, content) VALUES (?, ?, ?)').run(id, size.width, size.content)
  }
  return id
}

/** The form for mail programs, which is made when one is first asked for. */
export function keepMailPicture(db: Database, id: number, content: Uint8Array): void {
  prepare(db, 'INSERT OR IGNORE INTO picture_sizes (picture_id, width, content) VALUES (?, ?, ?)').run(id, FORMS.mail, content)
}

/** A picture of one workspace in another, with all its sizes; one that is there already, to the last byte, is used again. */
export function copyPicture(from: Database, to: Database, id: number, at: Instant): number {
  const { name, width, height } = prepare<{ name: string, width: number, height: number }>(
    from, 'SELECT name, width, height FROM pictures WHERE id = ?',
  ).get(id)!
  const sizes = prepare<{ width: number, content: Uint8Array }>(
    from, 'SELECT width, content FROM picture_sizes WHERE picture_id = ? ORDER BY width',
  ).all(id)
  const same = prepare<{ id: number }>(to, `
    SELECT p.id FROM pictures p WHERE p.name = ? AND p.width = ? AND p.height = ?
      AND EXISTS (SELECT 1 FROM picture_sizes s WHERE s.picture_id = p.id AND s.width = ? AND s.content = ?)`)
    .get(name, width, height, sizes.at(-1)!.width, sizes.at(-1)!.content)
  if (same) return same.id
  const copy = Number(
    prepare(to, 'INSERT INTO pictures (name, width, height, created_at) VALUES (?, ?, ?, ?)').run(name, width, height, at).lastInsertRowid,
  )
  const insert = prepare(to, 'INSERT INTO picture_sizes (picture_id, width, content) VALUES (?, ?, ?)')
  for (const size of sizes) insert.run(copy, size.width, size.content)
  return copy
}
