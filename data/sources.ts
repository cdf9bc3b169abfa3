/** What brings people: named sources, touches, and how often a page was shown because of each. */
import type { Touch } from '#core/page/touch'
import type { Instant, LocalDate } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface NamedSource { id: number, name: string, slug: string }

export function namedSources(db: Database): NamedSource[] {
  return prepare<NamedSource>(db, 'SELECT id, name, slug FROM named_sources ORDER BY name COLLATE NOCASE, id').all()
}

export function insertNamedSource(db: Database, { name, slug, at }: { name: string, slug: string, at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO named_sources (name, slug, created_at) VALUES (?, ?, ?)').run(name, slug, at).lastInsertRowid)
}

const FIELDS = 'named, source, medium, campaign, term, content, referrer'

const MARKS = '@named, @source, @medium, @campaign, @term, @content, @referrer'

function findTouchId(db: Database, touch: Touch): number | undefined {
  return prepare<{ id: number }>(db, `SELECT id FROM touches WHERE (${FIELDS}) = (${MARKS})`).get(touch)?.id
}

/** Its number; made where it was never told before. */
export function touchIdOf(db: Database, touch: Touch): number {
  return findTouchId(db, touch) ?? Number(prepare(db, `INSERT INTO touches (${FIELDS}) VALUES (${MARKS})`).run(touch).lastInsertRowid)
}

export interface TouchRow extends Touch { id: number }

export function touchesByIds(db: Database, ids: number[]): TouchRow[] {
  return prepare<TouchRow>(db, `SELECT id, ${FIELDS} FROM touches WHERE id IN (SELECT value FROM json_each(?))`).all(JSON.stringify(ids))
}

/** Those by which somebody opted in, at most so many. */
export function touchesWithOptIns(db: Database, most: number): TouchRow[] {
  return prepare<TouchRow>(
    db, `SELECT id, ${FIELDS} FROM touches t WHERE EXISTS (SELECT 1 FROM opt_ins o WHERE o.touch_id = t.id) ORDER BY ${FIELDS} LIMIT ?`,
  ).all(most)
}

/** What is shown to visitors, with its table and the column of its number. */
export type Shown = 'page' | 'offer'
const VISITS: Record<Shown, { table: string, column: string }> = {
  page: { table: 'page_visits', column: 'page_id' }, offer: { table: 'offer_visits', column: 'offer_id' },
}

/** How many different ones brought visitors on a day. */
export function touchesOfDay(db: Database, shown: Shown, id: number, day: LocalDate): number {
  const { table, column } = VISITS[shown]
  return prepare<{ n: number }>(db, `SELECT count(*) AS n FROM ${table} WHERE ${column} = ? AND day = ?`).get(id, day)!.n
}

/** Whether it was one of them. */
export function broughtOn(db: Database, shown: Shown, id: number, day: LocalDate, touch: Touch): boolean {
  const { table, column } = VISITS[shown]
  return prepare(db, `SELECT 1 FROM ${table} WHERE ${column} = ? AND day = ? AND touch_id = ?`).get(
    id, day, findTouchId(db, touch) ?? null,
  ) !== undefined
}

export function addVisits(db: Database, shown: Shown, row: { id: number, day: LocalDate, touchId: number, visits: number }): void {
  const { table, column } = VISITS[shown]
  prepare(db, `INSERT INTO ${table} (${column}, day, touch_id, visits) VALUES (@id, @day, @touchId, @visits)
    ON CONFLICT DO UPDATE SET visits = visits + excluded.visits`).run(row)
}

/** Per day from `first` to `last`, both included; days without any are left out. */
export function visitsByDay(db: Database, pageId: number, first: LocalDate, last: LocalDate): { day: LocalDate, visits: number }[] {
  return prepare<{ day: LocalDate, visits: number }>(
    db, 'SELECT day, sum(visits) AS visits FROM page_visits WHERE page_id = ? AND day BETWEEN ? AND ? GROUP BY day ORDER BY day',
  ).all(pageId, first, last)
}

export function visitsByTouch(db: Database, pageId: number, first: LocalDate, last: LocalDate): { touchId: number, visits: number }[] {
  return prepare<{ touchId: number, visits: number }>(
    db, 'SELECT touch_id AS touchId, sum(visits) AS visits FROM page_visits WHERE page_id = ? AND day BETWEEN ? AND ? GROUP BY touch_id',
  ).all(pageId, first, last)
}

/**
 * People who opted in on a page in a stretch of time, `to` not included, by what brought them; null for those from before that was kept.
 */
export function optInsByTouch(db: Database, pageId: number, from: Instant, to: Instant): { touchId: number | null, people: number }[] {
  return prepare<{ touchId: number | null, people: number }>(db, `
    SELECT touch_id AS touchId, count(DISTINCT person_id) AS people FROM opt_ins WHERE page_id = ? AND at >= ? AND at < ?
    GROUP BY touch_id`).all(pageId, from, to)
}

/** People who opted in on a page in a stretch of time, `to` not included, by the result page that their answers led to; null for none. */
export function optInsByResult(db: Database, pageId: number, from: Instant, to: Instant): { resultId: string | null, people: number }[] {
  return prepare<{ resultId: string | null, people: number }>(db, `
    SELECT result_id AS resultId, count(DISTINCT person_id) AS people FROM opt_ins WHERE page_id = ? AND at >= ? AND at < ?
    GROUP BY result_id`).all(pageId, from, to)
}

/**
 * People of a page in a stretch of time, `to` not included: whose opt-in began to count, who pressed and did not say yes, who first fetched
 * the file.
 */
export function fatesOfOptIns(
  db: Database, pageId: number, from: Instant, to: Instant,
): { counted: number, notConfirmed: number, fetched: number } {
  return prepare<{ counted: number, notConfirmed: number, fetched: number }>(db, `
    SELECT count(DISTINCT CASE WHEN confirmed_at >= @from AND confirmed_at < @to THEN person_id END) AS counted,
      count(DISTINCT CASE WHEN confirmed_at IS NULL AND at >= @from AND at < @to THEN person_id END) AS notConfirmed,
      count(DISTINCT CASE WHEN fetched_at >= @from AND fetched_at < @to THEN person_id END) AS fetched
    FROM opt_ins WHERE page_id = @pageId`).get({ pageId, from, to })!
}

/** Every opt-in of a page in a stretch of time, `to` not included, in its order. */
export function optInTimes(db: Database, pageId: number, from: Instant, to: Instant): { personId: number, at: Instant }[] {
  return prepare<{ personId: number, at: Instant }>(
    db, 'SELECT person_id AS personId, at FROM opt_ins WHERE page_id = ? AND at >= ? AND at < ? ORDER BY at',
  ).all(pageId, from, to)
}

/** What brought somebody first and latest. */
export function touchesOfPerson(db: Database, personId: number): { first: TouchRow | null, latest: TouchRow | null } {
  const ids = prepare<{ first: number | null, latest: number | null }>(
    db, 'SELECT first_touch_id AS first, latest_touch_id AS latest FROM people WHERE id = ?',
  ).get(personId)
  const rows = touchesByIds(db, [ids?.first, ids?.latest].flatMap(id => id ?? []))
  const of = (id: number | null | undefined) => rows.find(row => row.id === id) ?? null
  return { first: of(ids?.first), latest: of(ids?.latest) }
}
