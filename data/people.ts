/** Subscribers: the table of all, and what is known about one. */
import { fold } from '#core/audience/condition'
import type { Status } from '#core/people/status'
import type { ListedPerson, PeopleOrder, Person } from '#core/views/people'
import type { Instant } from '#core/time/zone'
import type { SqlCondition } from '#core/audience/sql'
import type { Database } from './connection'
import { prepare } from './connection'
import { keep } from './kept'

const PERSON = `
  SELECT id, address, first_name AS firstName, status, zone, country, source, created_at AS createdAt, consent_at AS consentAt
  FROM people`

/** Nobody that is erased or merged into another. */
export function findPerson(db: Database, id: number): Person | undefined {
  return keep(db, ['people'], `person ${id}`, () => prepare<Person>(db, `${PERSON} WHERE id = ? AND gone IS NULL`).get(id))
}

/** Only that; undefined for who is not there. */
export function statusOf(db: Database, id: number): Status | undefined {
  return findPerson(db, id)?.status
}

export function findPersonByKey(db: Database, addressKey: string): Person | undefined {
  return prepare<Person>(db, `${PERSON} WHERE address_key = ?`).get(addressKey)
}

/** Whether the name is known to be theirs, or only typed into a form by whoever. */
export type NameIs = 'theirs' | 'typed'

export type NewPerson = Omit<Person, 'id' | 'consentAt'> & { addressKey: string, consentAt?: Instant | null, nameIs?: NameIs }

export function insertPerson(db: Database, row: NewPerson): number {
  return Number(prepare(db, `
    INSERT INTO people (address, address_key, first_name, search_text, status, zone, country, source, created_at, consent_at, name_typed)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`)
    .run(row.address, row.addressKey, row.firstName, searchTextOf(
      row.addressKey, row.firstName
    ), row.status, row.zone, row.country, row.source, row.createdAt, row.consentAt ?? null, row.nameIs === 'typed' ? 1 : 0).lastInsertRowid)
}

/** What people are called where one of many is named. */
export function addressesOf(db: Database, ids: number[]): { id: number, name: string }[] {
  return prepare<{ id: number, name: string }>(db, `
    SELECT id, CASE first_name WHEN '' THEN address ELSE first_name || ', ' || address END AS name FROM people
    WHERE id IN (SELECT value FROM json_each(?))`).all(JSON.stringify(ids))
}

const searchTextOf = (addressKey: string, firstName: string) => `${addressKey} ${fold(firstName)}`

export function setStatus(db: Database, id: number, status: Status): void {
  prepare(db, 'UPDATE people SET status = ? WHERE id = ?').run(status, id)
}

export function setFirstName(db: Database, id: number, firstName: string, is: NameIs): void {
  prepare(
    db, `UPDATE people SET first_name = ?, search_text = address_key || ' ' || ?, name_typed = ? WHERE id = ?`
  ).run(firstName, fold(firstName), is === 'typed' ? 1 : 0, id)
}

/** They have shown that the address is theirs. */
export function nameIsTheirs(db: Database, id: number): void {
  prepare(db, 'UPDATE people SET name_typed = 0 WHERE id = ? AND name_typed = 1').run(id)
}

/** What emails may call them: nothing that a stranger may have typed. */
export function nameInMail(db: Database, id: number): string {
  return prepare<string>(db, `SELECT CASE name_typed WHEN 1 THEN '' ELSE first_name END FROM people WHERE id = ?`).pluck().get(id) as string
}

/** How many of them emails cannot call by name. */
export function countNameless(db: Database, where: SqlCondition): number {
  return db.prepare<unknown[], number>(`
    SELECT count(*) FROM people p WHERE p.gone IS NULL AND (p.name_typed = 1 OR trim(p.first_name) = '') AND ${where.sql}`).pluck()
    .get(...where.values)!
}

export function setZone(db: Database, id: number, zone: string | null): void {
  prepare(db, 'UPDATE people SET zone = ? WHERE id = ?').run(zone, id)
}

export function setCountry(db: Database, id: number, country: string | null): void {
  prepare(db, 'UPDATE people SET country = ? WHERE id = ?').run(country, id)
}

/** A reader open or a click of any email, or an uncertain open. */
export function markRead(db: Database, id: number, by: 'reader' | 'uncertain', at: Instant): void {
  const sql = {
    reader: 'UPDATE people SET read_at = max(coalesce(read_at, 0), ?) WHERE id = ?',
    uncertain: 'UPDATE people SET fetched_at = max(coalesce(fetched_at, 0), ?) WHERE id = ?',
  }[by]
  prepare(db, sql).run(at, id)
}

/** Whom a search and a condition leave. */
/** A range of numbers: after the first, up to and with the second. */
export interface Span { after: number, to: number }

export interface Which {
  /** Any part of address or name; empty for all. */
  search: string
  /** Only those for whom it holds; other tables asked as sets. */
  where: SqlCondition
}

export interface PeopleQuery extends Which {
  /** The same condition, other tables asked anew for each person. */
  whereEach: SqlCondition
  /** What takes long with this condition: then it is done no more than needed. */
  slow: 'at-once' | 'one-by-one' | null
  sort: PeopleOrder
  limit: number
  offset: number
}

const ORDERS: Record<PeopleOrder, string> = {
  newest: 'p.created_at DESC, p.id DESC', oldest: 'p.created_at, p.id', address: 'p.address_key',
  name: 'p.first_name COLLATE NOCASE, p.address_key',
}

/** How far the ways of finding a page go before the next one is tried. It changes how long it takes, and nothing else. */
export interface Reach {
  /**
   * How many people are looked at one by one, in their order, before everybody is asked at once: a few, and then more unless there is
   * little hope.
   */
  few: number
  more: number
  /** So many are fetched and put in order rather than looked for among everybody. */
  ratherFew: number
}

const REACH: Reach = { few: 2000, more: 16_000, ratherFew: 2000 }

/** One page of the people. */
export function searchPeople(db: Database, query: PeopleQuery, reach = REACH): ListedPerson[] {
  const ids = query.sort === 'newest' || query.sort === 'oldest'
    ? firstOneByOne(db, query, query.sort, reach) ?? (query.slow === 'at-once' ? null : someAtOnce(db, query, reach))
      ?? idsOf(db, query, WALKING)
    : idsOf(db, query, '')
  const rows = new Map(peopleByIds(db, ids).map(row => [row.id, row]))
  return ids.flatMap(id => rows.get(id) ?? [])
}

/** The page, asking for everybody at once; `by` says how to go through the people. */
function idsOf(db: Database, { search, where, sort, limit, offset }: PeopleQuery, by: string): number[] {
  const { sql, values } = matching({ search, where })
  return db.prepare<unknown[], number>(`SELECT p.id FROM people p ${by} WHERE ${sql} ORDER BY ${ORDERS[sort]} LIMIT ? OFFSET ?`).pluck()
    .all(...values, limit, offset)
}

/**
 * The page, if it is full after looking at the first few thousand in its order:
 * most conditions hold for enough of them, and then nobody else needs to be
 * asked. Null if it is not.
 */
function firstOneByOne(
  db: Database, { search, whereEach, slow, sort, limit, offset }: PeopleQuery, end: 'newest' | 'oldest', { few, more }: Reach,
): number[] | null {
  const { sql, values } = matching({ search, where: whereEach })
  const wanted = limit + offset
  for (const most of [few, more]) {
    const last = prepare<{ at: Instant }>(db, EDGES[end].sql).get(most)
    const ids = db.prepare<unknown[], number>(`
      SELECT p.id FROM people p ${WALKING} WHERE ${last ? `p.created_at ${EDGES[end].sign} ${last.at} AND ` : ''}${sql}
      ORDER BY ${ORDERS[sort]} LIMIT ?`).pluck().all(...values, wanted)
    if (!last || ids.length === wanted) return ids.slice(offset)
    if (slow === 'one-by-one' && ids.length * more < wanted * few) return null
  }
  return null
}

/** The page of a condition that holds for rather few, wherever they are. Null if it holds for more. */
function someAtOnce(db: Database, query: PeopleQuery, { ratherFew }: Reach): number[] | null {
  const { sql, values } = matching(query)
  const ids = db.prepare<unknown[], number>(`SELECT p.id FROM people p WHERE ${sql} LIMIT ?`).pluck().all(...values, ratherFew)
  if (ids.length === ratherFew) return null
  return db.prepare<unknown[], number>(
    `SELECT p.id FROM people p WHERE p.id IN (SELECT value FROM json_each(?)) ORDER BY ${ORDERS[query.sort]} LIMIT ? OFFSET ?`,
  ).pluck().all(JSON.stringify(ids), query.limit, query.offset)
}

/** Where a condition holds for many, but not for the first in the order, the page is soon full on the way through. */
const WALKING = 'INDEXED BY people_by_arrival'

const EDGES = {
  newest: { sql: 'SELECT created_at AS at FROM people ORDER BY created_at DESC LIMIT 1 OFFSET ?', sign: '>=' },
  oldest: { sql: 'SELECT created_at AS at FROM people ORDER BY created_at LIMIT 1 OFFSET ?', sign: '<=' },
} as const

type RawListed = Omit<ListedPerson, 'fields' | 'tags' | 'lists' | 'listsLeft'> & {
  fields: string, tags: string, lists: string, listsLeft: string,
}

const LISTED = `
  SELECT p.id, p.address, p.first_name AS firstName, p.status, p.zone, p.country, p.source, p.created_at AS createdAt,
    p.consent_at AS consentAt, p.read_at AS readAt,
    (SELECT json_group_array(t.name)
      FROM tag_holdings h JOIN tags t ON t.id = h.tag_id AND t.gone IS NULL WHERE h.person_id = p.id) AS tags,
    (SELECT json_group_array(l.name)
      FROM list_members m JOIN lists l ON l.id = m.list_id AND l.gone IS NULL WHERE m.person_id = p.id AND m.left_at IS NULL) AS lists,
    (SELECT json_group_array(l.name)
      FROM list_members m JOIN lists l ON l.id = m.list_id AND l.gone IS NULL WHERE m.person_id = p.id
        AND m.left_at IS NOT NULL) AS listsLeft,
    (SELECT json_group_object(f.field_id, f.value) FROM field_values f WHERE f.person_id = p.id) AS fields
  FROM people p`

const names = (array: string) => JSON.parse(array) as string[]
const parseListed = (row: RawListed): ListedPerson => ({
  ...row, fields: JSON.parse(row.fields) as ListedPerson['fields'], tags: names(row.tags), lists: names(row.lists),
  listsLeft: names(row.listsLeft),
})

/** Everybody that a search and a condition leave, in the order of their numbers. */
export function peopleIds(db: Database, which: Which): number[] {
  const { sql, values } = matching(which)
  return db.prepare<unknown[], number>(`SELECT p.id FROM people p WHERE ${sql} ORDER BY p.id`).pluck().all(...values)
}

/** By number, after that one. */
export function peopleAfter(db: Database, after: number, limit: number): number[] {
  return prepare<{ id: number }>(db, 'SELECT id FROM people WHERE id > ? AND gone IS NULL ORDER BY id LIMIT ?').all(after, limit)
    .map(({ id }) => id)
}

/** Those of them who are still there. */
export function peopleByIds(db: Database, ids: number[]): ListedPerson[] {
  return prepare<RawListed>(
    db, `${LISTED} WHERE p.gone IS NULL AND p.id IN (SELECT value FROM json_each(?)) ORDER BY p.id`,
  ).all(JSON.stringify(ids)).map(parseListed)
}

/** How many people there are for whom the condition holds, and in whose address or name the text is found. */
export function countWhere(db: Database, which: Which & { where: { from?: string } }): number {
  const { sql, values } = matching(which)
  return db.prepare<unknown[], { n: number }>(`SELECT count(*) AS n FROM ${which.where.from ?? 'people p'} WHERE ${sql}`).get(...values)!.n
}

/** They are one of these: an expression over the row `p`. */
export const among = (ids: readonly number[]): SqlCondition => ({
  sql: 'p.id IN (SELECT value FROM json_each(?))', values: [JSON.stringify(ids)],
})

/** Nobody has a greater id. */
export function lastPersonId(db: Database): number {
  return prepare<{ id: number | null }>(db, 'SELECT max(id) AS id FROM people').get()!.id ?? 0
}

/** The newest of those whose address or name has `sought` in it, which is folded. */
export function findPeople(db: Database, sought: string, limit: number): { id: number, firstName: string, address: string }[] {
  return prepare<{ id: number, firstName: string, address: string }>(db, `
    SELECT id, first_name AS firstName, address FROM people WHERE gone IS NULL AND instr(search_text, ?) > 0 ORDER BY id DESC LIMIT ?`)
    .all(sought, limit)
}

/** The people that a search and a condition leave, as an expression over `p`. */
export function matching({ search, where }: Which): SqlCondition {
  const text = fold(search.trim())
  return text === ''
    ? { sql: `p.gone IS NULL AND ${where.sql}`, values: where.values }
    : { sql: `p.gone IS NULL AND instr(p.search_text, ?) > 0 AND ${where.sql}`, values: [text, ...where.values] }
}

export function countPeople(db: Database): Record<Status, number> {
  const counts: Record<Status, number> = { pending: 0, active: 0, resting: 0, unsubscribed: 0, bounced: 0, complained: 0 }
  for (const row of prepare<{ status: Status, n: number }>(
    db, 'SELECT status, count(*) AS n FROM people WHERE gone IS NULL GROUP BY status',
  ).all()) counts[row.status] = row.n
  return counts
}

export function countArrivals(db: Database, from: Instant, to: Instant): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM people WHERE created_at > ? AND created_at <= ?').get(from, to)!.n
}

/** People who unsubscribed, bounced or complained; each once. */
export function countDepartures(db: Database, from: Instant, to: Instant): number {
  return prepare<{ n: number }>(db, `
    SELECT count(DISTINCT person_id) AS n FROM events WHERE kind IN ('unsubscribed', 'bounced', 'complained') AND at > ? AND at <= ?`)
    .get(from, to)!.n
}

/** Where people came from, commonest first. */
export function allSources(db: Database): string[] {
  return prepare<{ source: string }>(
    db, 'SELECT source FROM people WHERE gone IS NULL GROUP BY source ORDER BY count(*) DESC, source LIMIT 200',
  ).all().map(row => row.source)
}
