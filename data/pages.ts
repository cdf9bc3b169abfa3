/** Opt-in pages and their published versions. */
import type { PageContent } from '#core/page/content'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export interface PageRow {
  id: number
  name: string
  slug: string
  draft: PageContent
  versionId: number | null
  versionNumber: number | null
  published: PageContent | null
  createdAt: Instant
  changedAt: Instant
  optIns: number
}

interface RawPage extends Omit<PageRow, 'draft' | 'published'> { draft: string, published: string | null }

const PAGE = `
  SELECT p.id, p.name, p.slug, p.draft, p.version_id AS versionId, v.number AS versionNumber, v.content AS published,
    p.created_at AS createdAt, p.changed_at AS changedAt,
    (SELECT count(*) FROM opt_ins o WHERE o.page_id = p.id) AS optIns
  FROM pages p LEFT JOIN page_versions v ON v.id = p.version_id`

const parse = (row: RawPage): PageRow => ({ ...row, draft: JSON.parse(row.draft), published: row.published && JSON.parse(row.published) })

export function allPages(db: Database): PageRow[] {
  return q<RawPage>(db, `${PAGE} ORDER BY p.id`).all().map(parse)
}

/** Their names only: counting who opted in takes time. */
export function pageNames(db: Database): { id: number, name: string }[] {
  return q<{ id: number, name: string }>(db, 'SELECT id, name FROM pages ORDER BY id').all()
}

export function findPage(db: Database, id: number): PageRow | undefined {
  const row = q<RawPage>(db, `${PAGE} WHERE p.id = ?`).get(id)
  return row && parse(row)
}

export function findPageBySlug(db: Database, slug: string): PageRow | undefined {
  const row = q<RawPage>(db, `${PAGE} WHERE p.slug = ?`).get(slug)
  return row && parse(row)
}

/** What a public visit needs, and nothing more. */
export interface PublishedPage { id: number, slug: string, versionId: number, content: PageContent }

export function findPublishedPage(db: Database, slug: string): PublishedPage | undefined {
  const row = q<{ id: number, slug: string, versionId: number, content: string }>(db, `
    SELECT p.id, p.slug, v.id AS versionId, v.content FROM pages p JOIN page_versions v ON v.id = p.version_id WHERE p.slug = ?`).get(slug)
  return row && { ...row, content: JSON.parse(row.content) }
}

export function insertPage(db: Database, row: { name: string, slug: string, draft: PageContent, at: Instant }): number {
  return Number(q(db, 'INSERT INTO pages (name, slug, draft, created_at, changed_at) VALUES (?, ?, ?, ?, ?)')
    .run(row.name, row.slug, JSON.stringify(row.draft), row.at, row.at).lastInsertRowid)
}

export function updatePage(db: Database, id: number, row: { name: string, slug: string, draft: PageContent, at: Instant }): void {
  q(db, 'UPDATE pages SET name = ?, slug = ?, draft = ?, changed_at = ? WHERE id = ?').run(row.name, row.slug, JSON.stringify(row.draft), row.at, id)
}

export function insertPageVersion(db: Database, pageId: number, content: PageContent, at: Instant): { id: number, number: number } {
  const row = q<{ id: number, number: number }>(db, `
    INSERT INTO page_versions (page_id, number, content, published_at)
    VALUES (@pageId, (SELECT coalesce(max(number), 0) + 1 FROM page_versions WHERE page_id = @pageId), @content, @at)
    RETURNING id, number`).get({ pageId, content: JSON.stringify(content), at })!
  q(db, 'UPDATE pages SET version_id = ? WHERE id = ?').run(row.id, pageId)
  return row
}

/** Takes the page off the web; its versions and consents stay. */
export function unpublish(db: Database, pageId: number): void {
  q(db, 'UPDATE pages SET version_id = NULL WHERE id = ?').run(pageId)
}

/** Someone pressed the button of a page. */
export function insertOptIn(db: Database, row: { pageId: number, personId: number, at: Instant, eventId: number, touchId: number }): void {
  q(db, 'INSERT INTO opt_ins (page_id, person_id, at, event_id, touch_id) VALUES (?, ?, ?, ?, ?)').run(row.pageId, row.personId, row.at, row.eventId, row.touchId)
  q(db, 'UPDATE people SET first_touch_id = coalesce(first_touch_id, ?), latest_touch_id = ? WHERE id = ?').run(row.touchId, row.touchId, row.personId)
}
