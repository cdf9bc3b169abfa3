/** Subscribers, the lists they are on, the tags they have and the consent they gave. */
import type { Status } from '#core/people/status'
import type { ListedPerson, PeopleOrder, Person } from '#core/views/people'
import type { Instant } from '#core/time/zone'
import type { Compiled } from '#core/audience/sql'
import type { Database } from './connection'
import { q } from './connection'

const PERSON = 'SELECT id, address, first_name AS firstName, status, zone, source, created_at AS createdAt FROM people'

export function findPerson(db: Database, id: number): Person | undefined {
  return q<Person>(db, `${PERSON} WHERE id = ?`).get(id)
}

export function findPersonByKey(db: Database, addressKey: string): Person | undefined {
  return q<Person>(db, `${PERSON} WHERE address_key = ?`).get(addressKey)
}

export function insertPerson(db: Database, row: Omit<Person, 'id'> & { addressKey: string }): number {
  return Number(q(db, 'INSERT INTO people (address, address_key, first_name, status, zone, source, created_at) VALUES (?, ?, ?, ?, ?, ?, ?)')
    .run(row.address, row.addressKey, row.firstName, row.status, row.zone, row.source, row.createdAt).lastInsertRowid)
}

export function setStatus(db: Database, id: number, status: Status): void {
  q(db, 'UPDATE people SET status = ? WHERE id = ?').run(status, id)
}

export function setFirstName(db: Database, id: number, firstName: string): void {
  q(db, 'UPDATE people SET first_name = ? WHERE id = ?').run(firstName, id)
}

export function setZone(db: Database, id: number, zone: string | null): void {
  q(db, 'UPDATE people SET zone = ? WHERE id = ?').run(zone, id)
}

export interface PeopleQuery {
  /** Any part of address or name; empty for all. */
  search: string
  /** Only those for whom it holds. */
  where: Compiled
  sort: PeopleOrder
  limit: number
  offset: number
}

const ORDERS: Record<PeopleOrder, string> = {
  newest: 'p.created_at DESC, p.id DESC', oldest: 'p.created_at, p.id', address: 'p.address_key', name: 'p.first_name COLLATE NOCASE, p.address_key',
}

/** One page of the people, and how many there are in all. */
export function searchPeople(db: Database, { search, where, sort, limit, offset }: PeopleQuery): { rows: ListedPerson[], total: number } {
  const text = search.trim().toLowerCase()
  const found = text === '' ? { sql: '', values: [] } : { sql: ' AND (instr(p.address_key, ?) > 0 OR instr(lower(p.first_name), ?) > 0)', values: [text, text] }
  const values = [...where.values, ...found.values]
  const from = `FROM people p WHERE ${where.sql}${found.sql}`
  const rows = db.prepare<unknown[], ListedPerson>(`
    SELECT p.id, p.address, p.first_name AS firstName, p.status, p.zone, p.source, p.created_at AS createdAt,
      (SELECT group_concat(t.name, ', ') FROM tag_holdings h JOIN tags t ON t.id = h.tag_id WHERE h.person_id = p.id) AS tags
    ${from} ORDER BY ${ORDERS[sort]} LIMIT ? OFFSET ?`).all(...values, limit, offset)
  const { n } = db.prepare<unknown[], { n: number }>(`SELECT count(*) AS n ${from}`).get(...values)!
  return { rows, total: n }
}

export function countPeople(db: Database): Record<Status, number> {
  const counts: Record<Status, number> = { pending: 0, active: 0, resting: 0, unsubscribed: 0, bounced: 0, complained: 0 }
  for (const row of q<{ status: Status, n: number }>(db, 'SELECT status, count(*) AS n FROM people GROUP BY status').all()) counts[row.status] = row.n
  return counts
}

export function countArrivals(db: Database, from: Instant, to: Instant): number {
  return q<{ n: number }>(db, 'SELECT count(*) AS n FROM people WHERE created_at > ? AND created_at <= ?').get(from, to)!.n
}

/* Lists */

export interface ListRow { id: number, name: string, publicName: string, description: string, takesEverybody: 0 | 1, createdAt: Instant }

const LIST = 'SELECT id, name, public_name AS publicName, description, takes_everybody AS takesEverybody, created_at AS createdAt FROM lists'

export function allLists(db: Database): (ListRow & { people: number })[] {
  return q<ListRow & { people: number }>(db, `
    SELECT l.id, l.name, l.public_name AS publicName, l.description, l.takes_everybody AS takesEverybody, l.created_at AS createdAt,
      (SELECT count(*) FROM list_members m WHERE m.list_id = l.id AND m.left_at IS NULL) AS people
    FROM lists l ORDER BY l.id`).all()
}

export function findList(db: Database, id: number): ListRow | undefined {
  return q<ListRow>(db, `${LIST} WHERE id = ?`).get(id)
}

export function findListByName(db: Database, name: string): ListRow | undefined {
  return q<ListRow>(db, `${LIST} WHERE name = ?`).get(name)
}

export function insertList(db: Database, row: Omit<ListRow, 'id'>): number {
  return Number(q(db, 'INSERT INTO lists (name, public_name, description, takes_everybody, created_at) VALUES (?, ?, ?, ?, ?)')
    .run(row.name, row.publicName, row.description, row.takesEverybody, row.createdAt).lastInsertRowid)
}

export function updateList(db: Database, id: number, row: Pick<ListRow, 'name' | 'publicName' | 'description'>): void {
  q(db, 'UPDATE lists SET name = ?, public_name = ?, description = ? WHERE id = ?').run(row.name, row.publicName, row.description, id)
}

export function membership(db: Database, listId: number, personId: number): 'joined' | 'left' | 'never-joined' {
  const row = q<{ leftAt: number | null }>(db, 'SELECT left_at AS leftAt FROM list_members WHERE list_id = ? AND person_id = ?').get(listId, personId)
  if (!row) return 'never-joined'
  return row.leftAt === null ? 'joined' : 'left'
}

export function setJoined(db: Database, listId: number, personId: number, at: Instant, eventId: number): void {
  q(db, `INSERT INTO list_members (list_id, person_id, joined_at, event_id) VALUES (?, ?, ?, ?)
    ON CONFLICT (list_id, person_id) DO UPDATE SET joined_at = excluded.joined_at, left_at = NULL, event_id = excluded.event_id`)
    .run(listId, personId, at, eventId)
}

export function setLeft(db: Database, listId: number, personId: number, at: Instant): void {
  q(db, 'UPDATE list_members SET left_at = ? WHERE list_id = ? AND person_id = ?').run(at, listId, personId)
}

export function listsOfPerson(db: Database, personId: number): { id: number, name: string, publicName: string, description: string, joinedAt: Instant, leftAt: Instant | null }[] {
  return q<ReturnType<typeof listsOfPerson>[number]>(db, `
    SELECT l.id, l.name, l.public_name AS publicName, l.description, m.joined_at AS joinedAt, m.left_at AS leftAt
    FROM list_members m JOIN lists l ON l.id = m.list_id WHERE m.person_id = ? ORDER BY l.id`).all(personId)
}

/* Tags */

export interface TagRow { id: number, name: string, note: string, createdAt: Instant }

export function allTags(db: Database): (TagRow & { people: number })[] {
  return q<TagRow & { people: number }>(db, `
    SELECT t.id, t.name, t.note, t.created_at AS createdAt, (SELECT count(*) FROM tag_holdings h WHERE h.tag_id = t.id) AS people
    FROM tags t ORDER BY t.name`).all()
}

export function findTag(db: Database, id: number): TagRow | undefined {
  return q<TagRow>(db, 'SELECT id, name, note, created_at AS createdAt FROM tags WHERE id = ?').get(id)
}

export function findTagByName(db: Database, name: string): TagRow | undefined {
  return q<TagRow>(db, 'SELECT id, name, note, created_at AS createdAt FROM tags WHERE name = ?').get(name)
}

export function insertTag(db: Database, row: Omit<TagRow, 'id'>): number {
  return Number(q(db, 'INSERT INTO tags (name, note, created_at) VALUES (?, ?, ?)').run(row.name, row.note, row.createdAt).lastInsertRowid)
}

export function updateTag(db: Database, id: number, row: Pick<TagRow, 'name' | 'note'>): void {
  q(db, 'UPDATE tags SET name = ?, note = ? WHERE id = ?').run(row.name, row.note, id)
}

export function hasTag(db: Database, tagId: number, personId: number): boolean {
  return q(db, 'SELECT 1 FROM tag_holdings WHERE tag_id = ? AND person_id = ?').get(tagId, personId) !== undefined
}

export function insertHolding(db: Database, tagId: number, personId: number, at: Instant, eventId: number): void {
  q(db, 'INSERT INTO tag_holdings (tag_id, person_id, since_at, event_id) VALUES (?, ?, ?, ?)').run(tagId, personId, at, eventId)
}

/** True if the person had it. */
export function deleteHolding(db: Database, tagId: number, personId: number): boolean {
  return q(db, 'DELETE FROM tag_holdings WHERE tag_id = ? AND person_id = ?').run(tagId, personId).changes === 1
}

export function tagsOfPerson(db: Database, personId: number): { id: number, name: string, sinceAt: Instant, eventId: number }[] {
  return q<ReturnType<typeof tagsOfPerson>[number]>(db, `
    SELECT t.id, t.name, h.since_at AS sinceAt, h.event_id AS eventId FROM tag_holdings h JOIN tags t ON t.id = h.tag_id
    WHERE h.person_id = ? ORDER BY h.since_at, t.name`).all(personId)
}

/** People who have one of the tags and can get mail, by id. */
export function peopleWithTags(db: Database, tagIds: number[]): number[] {
  return q<{ id: number }>(db, `
    SELECT DISTINCT p.id FROM tag_holdings h JOIN people p ON p.id = h.person_id
    WHERE h.tag_id IN (SELECT value FROM json_each(?)) AND p.status IN ('active', 'resting') ORDER BY p.id`).all(JSON.stringify(tagIds)).map(row => row.id)
}

/** Everybody who has one of the tags, also those who cannot get mail. */
export function countWithTags(db: Database, tagIds: number[]): number {
  return q<{ n: number }>(db, 'SELECT count(DISTINCT person_id) AS n FROM tag_holdings WHERE tag_id IN (SELECT value FROM json_each(?))').get(JSON.stringify(tagIds))!.n
}

/* Consent */

export function insertConsent(db: Database, row: { personId: number, eventId: number, pageVersionId: number, wording: string, at: Instant, ip: string | null, zone: string | null }): void {
  q(db, 'INSERT INTO consents (person_id, event_id, page_version_id, wording, at, ip, zone) VALUES (?, ?, ?, ?, ?, ?, ?)')
    .run(row.personId, row.eventId, row.pageVersionId, row.wording, row.at, row.ip, row.zone)
}

export function consentsOfPerson(db: Database, personId: number): { wording: string, at: Instant, ip: string | null, zone: string | null, pageName: string, pageVersion: number }[] {
  return q<ReturnType<typeof consentsOfPerson>[number]>(db, `
    SELECT c.wording, c.at, c.ip, c.zone, p.name AS pageName, v.number AS pageVersion
    FROM consents c JOIN page_versions v ON v.id = c.page_version_id JOIN pages p ON p.id = v.page_id
    WHERE c.person_id = ? ORDER BY c.at DESC, c.id DESC`).all(personId)
}
