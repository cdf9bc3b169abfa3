/** Opt-in pages and their published versions. */
import type { PageContent } from '#core/page/content'
import { pageFrom } from '#core/page/stored'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

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

const parse = (row: RawPage): PageRow => ({
  ...row, draft: pageFrom(JSON.parse(row.draft)), published: row.published === null ? null : pageFrom(JSON.parse(row.published)),
})

export function allPages(db: Database): PageRow[] {
  return prepare<RawPage>(db, `${PAGE} WHERE p.gone_at IS NULL ORDER BY p.id`).all().map(parse)
}

/** Their names only: counting who opted in takes time. */
export function pageNames(db: Database): { id: number, name: string }[] {
  return prepare<{ id: number, name: string }>(db, 'SELECT id, name FROM pages WHERE gone_at IS NULL ORDER BY id').all()
}

export function findPage(db: Database, id: number): PageRow | undefined {
  const row = prepare<RawPage>(db, `${PAGE} WHERE p.id = ? AND p.gone_at IS NULL`).get(id)
  return row && parse(row)
}

export const isPage = (db: Database, id: number): boolean => prepare(
  db, 'SELECT 1 FROM pages WHERE id = ? AND gone_at IS NULL'
).get(id) !== undefined

export function findPageBySlug(db: Database, slug: string): PageRow | undefined {
  const row = prepare<RawPage>(db, `${PAGE} WHERE p.slug = ?`).get(slug)
  return row && parse(row)
}

/** What a public visit needs, and nothing more. */
export interface PublishedPage { id: number, name: string, slug: string, versionId: number, content: PageContent, messages: PageMessages }

/** The emails of a version, by what each is for; only those it has. */
export interface PageMessages {
  confirm?: number, reminder?: number, file?: number, /** For people who are known, where nobody is asked to confirm. */ known?: number,
}

export function findPublishedPage(db: Database, slug: string): PublishedPage | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM pages p JOIN page_versions v ON v.id = p.version_id WHERE p.slug = ?`,
  ).get(slug)
  return row && parseVersion(row)
}

/** A version as it was published, whether or not the public still sees it. */
export function findPageVersion(db: Database, versionId: number): PublishedPage | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM page_versions v JOIN pages p ON p.id = v.page_id WHERE v.id = ?`,
  ).get(versionId)
  return row && parseVersion(row)
}

export function findPageVersionByNumber(db: Database, pageId: number, number: number): PublishedPage | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM page_versions v JOIN pages p ON p.id = v.page_id WHERE v.page_id = ? AND v.number = ?`,
  ).get(pageId, number)
  return row && parseVersion(row)
}

/** What the public sees of all pages. */
export function publishedVersions(db: Database): PublishedPage[] {
  return prepare<RawVersion>(db, `
    SELECT ${VERSION} FROM pages p JOIN page_versions v ON v.id = p.version_id ORDER BY p.id`).all().map(parseVersion)
}

type RawVersion = Omit<PublishedPage, 'content' | 'messages'> & { content: string, messages: string }

const VERSION = 'p.id, p.name, p.slug, v.id AS versionId, v.content, v.messages'

const parseVersion = (row: RawVersion): PublishedPage => ({
  ...row, content: pageFrom(JSON.parse(row.content)), messages: JSON.parse(row.messages),
})

export function insertPage(db: Database, row: { name: string, slug: string, draft: PageContent, at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO pages (name, slug, draft, created_at, changed_at) VALUES (?, ?, ?, ?, ?)')
    .run(row.name, row.slug, JSON.stringify(row.draft), row.at, row.at).lastInsertRowid)
}

export function updatePage(db: Database, id: number, row: { name: string, slug: string, draft: PageContent, at: Instant }): void {
  prepare(db, 'UPDATE pages SET name = ?, slug = ?, draft = ?, changed_at = ? WHERE id = ?').run(
    row.name, row.slug, JSON.stringify(row.draft), row.at, id,
  )
}

export function insertPageVersion(
  db: Database, pageId: number, content: PageContent, messages: PageMessages, at: Instant,
): { id: number, number: number } {
  const row = prepare<{ id: number, number: number }>(db, `
    INSERT INTO page_versions (page_id, number, content, messages, published_at)
    VALUES (@pageId, (SELECT coalesce(max(number), 0) + 1 FROM page_versions WHERE page_id = @pageId), @content, @messages, @at)
    RETURNING id, number`).get({ pageId, content: JSON.stringify(content), messages: JSON.stringify(messages), at })!
  prepare(db, 'UPDATE pages SET version_id = ? WHERE id = ?').run(row.id, pageId)
  return row
}

/** The public sees that version again. */
export function showPage(db: Database, pageId: number, versionId: number): void {
  prepare(db, 'UPDATE pages SET version_id = ? WHERE id = ?').run(versionId, pageId)
}

export function setPageMessages(db: Database, versionId: number, messages: PageMessages): void {
  prepare(db, 'UPDATE page_versions SET messages = ? WHERE id = ?').run(JSON.stringify(messages), versionId)
}

/** Takes the page off the web; its versions and consents stay. */
export function unpublish(db: Database, pageId: number): void {
  prepare(db, 'UPDATE pages SET version_id = NULL WHERE id = ?').run(pageId)
}

/** Nothing finds it any more, and its address is free; who opted in on it did so. */
export function endPage(db: Database, pageId: number, at: Instant): void {
  prepare(db, `UPDATE pages SET gone_at = ?, version_id = NULL, slug = 'gone ' || id WHERE id = ?`).run(at, pageId)
}

/** Someone pressed the button of a page. It counts from `confirmedAt`; null if it waits for their yes. */
export function insertOptIn(db: Database, row: {
  pageId: number, personId: number, at: Instant, eventId: number, touchId: number, confirmedAt: Instant | null, passedBy: number | null,
  resultId: string | null,
}): void {
  prepare(
    db,
    'INSERT INTO opt_ins (page_id, person_id, at, event_id, touch_id, confirmed_at, passed_by, result_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  ).run(row.pageId, row.personId, row.at, row.eventId, row.touchId, row.confirmedAt, row.passedBy, row.resultId)
  prepare(db, 'UPDATE people SET first_touch_id = coalesce(first_touch_id, ?), latest_touch_id = ? WHERE id = ?').run(
    row.touchId, row.touchId, row.personId,
  )
}

/** Their yes makes every opt-in of theirs on this page count that had not counted before. */
export function markConfirmed(db: Database, { pageId, personId }: { pageId: number, personId: number }, at: Instant): void {
  prepare(db, 'UPDATE opt_ins SET confirmed_at = ? WHERE page_id = ? AND person_id = ? AND confirmed_at IS NULL').run(at, pageId, personId)
}

/** The slug of the published page on which somebody opted in last. */
export function latestPageOf(db: Database, personId: number): string | undefined {
  return prepare<{ slug: string }>(db, `
    SELECT p.slug FROM opt_ins o JOIN pages p ON p.id = o.page_id WHERE o.person_id = ? AND o.confirmed_at IS NOT NULL
    AND p.version_id IS NOT NULL ORDER BY o.at DESC, o.event_id DESC LIMIT 1`).get(personId)?.slug
}

/** The reader who passed a page on to somebody, the first time that led to an opt-in. */
export function whoPassedOn(db: Database, personId: number): { id: number, name: string } | null {
  return prepare<{ id: number, name: string }>(db, `
    SELECT r.id, CASE r.first_name WHEN '' THEN r.address ELSE r.first_name END AS name FROM opt_ins o JOIN people r ON r.id = o.passed_by
    WHERE o.person_id = ? AND r.gone IS NULL ORDER BY o.at, o.event_id LIMIT 1`).get(personId) ?? null
}
