/** Lists and who is on them; tags and who has them. */
import { slugOf } from '#core/message/headers'
import type { TagExpiry, TagFacts } from '#core/people/tag'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'
import type { Due } from './dueKind'

export const EXPIRIES_DUE: Due = { rows: 'tag_holdings WHERE expires_at IS NOT NULL', at: 'expires_at' }

/* Lists */

export interface ListRow {
  id: number
  name: string
  publicName: string
  description: string
  takesEverybody: 0 | 1
  offered: 0 | 1
  createdAt: Instant
  /** What mail programs know it by, for good. */
  mailName: string
}

const LIST = `
  SELECT id, name, public_name AS publicName, description, takes_everybody AS takesEverybody, offered, created_at AS createdAt,
    coalesce(mail_name, 'list-' || id) AS mailName
  FROM lists`

export function allLists(db: Database): (ListRow & { people: number })[] {
  return prepare<ListRow & { people: number }>(db, `
    SELECT l.id, l.name, l.public_name AS publicName, l.description, l.takes_everybody AS takesEverybody, l.offered,
      l.created_at AS createdAt, coalesce(l.mail_name, 'list-' || l.id) AS mailName,
      (SELECT count(*) FROM list_members m WHERE m.list_id = l.id AND m.left_at IS NULL) AS people
    FROM lists l WHERE l.gone IS NULL ORDER BY l.id`).all()
}

export function findList(db: Database, id: number): ListRow | undefined {
  return prepare<ListRow>(db, `${LIST} WHERE id = ? AND gone IS NULL`).get(id)
}

export function findListByName(db: Database, name: string): ListRow | undefined {
  return prepare<ListRow>(db, `${LIST} WHERE name = ?`).get(name)
}

export function insertList(db: Database, row: Omit<ListRow, 'id' | 'mailName'>): number {
  const id = Number(prepare(
    db, 'INSERT INTO lists (name, public_name, description, takes_everybody, offered, created_at) VALUES (?, ?, ?, ?, ?, ?)',
  )
    .run(row.name, row.publicName, row.description, row.takesEverybody, row.offered, row.createdAt).lastInsertRowid)
  // Its name if that has letters for it and no other list has the same; its number otherwise.
  const slug = slugOf(row.publicName)
  prepare(db, `
    UPDATE lists SET mail_name = CASE WHEN @slug = 'untitled'
    OR EXISTS (SELECT 1 FROM lists WHERE mail_name = @slug) THEN 'list-' || id ELSE @slug END WHERE id = @id`).run({ slug, id })
  return id
}

export function updateList(db: Database, id: number, row: Pick<ListRow, 'name' | 'publicName' | 'description' | 'offered'>): void {
  prepare(db, 'UPDATE lists SET name = ?, public_name = ?, description = ?, offered = ? WHERE id = ?').run(
    row.name, row.publicName, row.description, row.offered, id,
  )
}

export function membership(db: Database, listId: number, personId: number): 'joined' | 'left' | 'never-joined' {
  const row = prepare<{ leftAt: number | null }>(db, 'SELECT left_at AS leftAt FROM list_members WHERE list_id = ? AND person_id = ?').get(
    listId, personId,
  )
  if (!row) return 'never-joined'
  return row.leftAt === null ? 'joined' : 'left'
}

export interface Membership { joinedAt: Instant, leftAt: Instant | null, eventId: number }

export function findMembership(db: Database, listId: number, personId: number): Membership | undefined {
  return prepare<Membership>(
    db, 'SELECT joined_at AS joinedAt, left_at AS leftAt, event_id AS eventId FROM list_members WHERE list_id = ? AND person_id = ?',
  ).get(listId, personId)
}

/** As if they had never joined. */
export function forgetMembership(db: Database, listId: number, personId: number): void {
  prepare(db, 'DELETE FROM list_members WHERE list_id = ? AND person_id = ?').run(listId, personId)
}

export function setJoined(db: Database, listId: number, personId: number, at: Instant, eventId: number): void {
  prepare(db, `INSERT INTO list_members (list_id, person_id, joined_at, event_id) VALUES (?, ?, ?, ?)
    ON CONFLICT (list_id, person_id) DO UPDATE SET joined_at = excluded.joined_at, left_at = NULL, event_id = excluded.event_id`)
    .run(listId, personId, at, eventId)
}

export function setLeft(db: Database, listId: number, personId: number, at: Instant): void {
  prepare(db, 'UPDATE list_members SET left_at = ? WHERE list_id = ? AND person_id = ?').run(at, listId, personId)
}

export function listsOfPerson(
  db: Database, personId: number,
): { id: number, name: string, publicName: string, description: string, joinedAt: Instant, leftAt: Instant | null, eventId: number }[] {
  return prepare<ReturnType<typeof listsOfPerson>[number]>(db, `
    SELECT l.id, l.name, l.public_name AS publicName, l.description, m.joined_at AS joinedAt, m.left_at AS leftAt, m.event_id AS eventId
    FROM list_members m JOIN lists l ON l.id = m.list_id WHERE m.person_id = ? AND l.gone IS NULL ORDER BY l.id`).all(personId)
}

interface Named { id: number, name: string }

/** Their names only: counting who has them takes time. */
export function markNames(db: Database): { lists: Named[], tags: Named[] } {
  return {
    lists: prepare<Named>(db, 'SELECT id, name FROM lists WHERE gone IS NULL ORDER BY id').all(),
    tags: prepare<Named>(
      db, `SELECT id, name FROM tags WHERE gone IS NULL ORDER BY group_name = '', group_name COLLATE NOCASE, name`,
    ).all(),
  }
}

/** How many lists and tags there are. */
export function countMarks(db: Database): number {
  return prepare<{ n: number }>(
    db, 'SELECT (SELECT count(*) FROM lists WHERE gone IS NULL) + (SELECT count(*) FROM tags WHERE gone IS NULL) AS n',
  ).get()!.n
}

/** On a list, or were: with those who have left it. */
export function countMembers(db: Database, listId: number): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM list_members WHERE list_id = ?').get(listId)!.n
}

/* Tags */

export interface TagRow extends TagFacts { id: number, createdAt: Instant }

interface RawTag extends Omit<TagRow, 'expiry'> { expiryDays: number | null, expiryOn: string | null }

const TAG =
  `SELECT t.id, t.name, t.note, t.group_name AS "group", t.colour, t.expiry_days AS expiryDays, t.expiry_on AS expiryOn,
    t.public_name AS publicName, t.created_at AS createdAt`

function parseTag<Raw extends RawTag>({ expiryDays, expiryOn, ...row }: Raw) {
  const expiry: TagExpiry = expiryDays !== null
    ? { kind: 'after', days: expiryDays }
    : expiryOn !== null ? { kind: 'on', date: expiryOn } : { kind: 'never' }
  return { ...row, expiry }
}

export function countHolders(db: Database, tagId: number): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM tag_holdings WHERE tag_id = ?').get(tagId)!.n
}

/** By group, then by name. */
export function allTags(db: Database): (TagRow & { people: number })[] {
  return prepare<RawTag & { people: number }>(db, `
    ${TAG}, (SELECT count(*) FROM tag_holdings h WHERE h.tag_id = t.id) AS people
    FROM tags t WHERE t.gone IS NULL ORDER BY t.group_name = '', t.group_name COLLATE NOCASE, t.name`).all().map(parseTag)
}

export function findTag(db: Database, id: number): TagRow | undefined {
  return keepSteady(db, `tag ${id}`, () => {
    const row = prepare<RawTag>(db, `${TAG} FROM tags t WHERE t.id = ? AND t.gone IS NULL`).get(id)
    return row && parseTag(row)
  })
}

export function findTagByName(db: Database, name: string): TagRow | undefined {
  const row = prepare<RawTag>(db, `${TAG} FROM tags t WHERE t.name = ?`).get(name)
  return row && parseTag(row)
}

const valuesOfTag = ({ name, note, group, colour, expiry, publicName }: TagFacts) =>
  [name, note, group, colour, expiry.kind === 'after' ? expiry.days : null, expiry.kind === 'on' ? expiry.date : null, publicName ?? null]

/** `madeFrom`: the tag with blanks that this one was filled in from. */
export function insertTag(db: Database, row: TagFacts, at: Instant, madeFrom: number | null = null): number {
  return Number(prepare(db, `
    INSERT INTO tags (name, note, group_name, colour, expiry_days, expiry_on, public_name, created_at, made_from)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(...valuesOfTag(row), at, madeFrom).lastInsertRowid)
}

/** The tags that readers see as interests of theirs, and whether this person has each. */
export function interestsOfPerson(db: Database, personId: number): { id: number, name: string, has: boolean }[] {
  return prepare<{ id: number, name: string, has: 0 | 1 }>(db, `
    SELECT t.id, t.public_name AS name, EXISTS (SELECT 1 FROM tag_holdings h WHERE h.tag_id = t.id AND h.person_id = ?) AS has
    FROM tags t WHERE t.public_name IS NOT NULL AND t.gone IS NULL ORDER BY t.public_name COLLATE NOCASE,
      t.id`).all(personId).map(row => ({ ...row, has: row.has === 1 }))
}

/** Those that were filled in from a tag with blanks. */
export function tagsMadeFrom(db: Database, tagId: number): number[] {
  return keepSteady(db, `made from ${tagId}`, () =>
    prepare<{ id: number }>(db, 'SELECT id FROM tags WHERE made_from = ? AND gone IS NULL ORDER BY id').all(tagId).map(row => row.id))
}

export function updateTag(db: Database, id: number, row: TagFacts): void {
  prepare(
    db, 'UPDATE tags SET name = ?, note = ?, group_name = ?, colour = ?, expiry_days = ?, expiry_on = ?, public_name = ? WHERE id = ?',
  ).run(...valuesOfTag(row), id)
}

export function hasTag(db: Database, tagId: number, personId: number): boolean {
  return prepare(db, 'SELECT 1 FROM tag_holdings WHERE tag_id = ? AND person_id = ?').get(tagId, personId) !== undefined
}

export interface Holding { sinceAt: Instant, expiresAt: Instant | null, eventId: number }

export function findHolding(db: Database, tagId: number, personId: number): Holding | undefined {
  return prepare<Holding>(
    db, 'SELECT since_at AS sinceAt, expires_at AS expiresAt, event_id AS eventId FROM tag_holdings WHERE tag_id = ? AND person_id = ?',
  ).get(tagId, personId)
}

export function insertHolding(
  db: Database, row: { tagId: number, personId: number, sinceAt: Instant, expiresAt: Instant | null, eventId: number },
): void {
  prepare(db, 'INSERT INTO tag_holdings (tag_id, person_id, since_at, expires_at, event_id) VALUES (?, ?, ?, ?, ?)').run(
    row.tagId, row.personId, row.sinceAt, row.expiresAt, row.eventId,
  )
}

/** Someone who is given a tag once more keeps it as long as if it were new. */
export function renewHolding(db: Database, tagId: number, personId: number, expiresAt: Instant | null): void {
  prepare(db, 'UPDATE tag_holdings SET expires_at = ? WHERE tag_id = ? AND person_id = ?').run(expiresAt, tagId, personId)
}

/** Tags that vanish by `at`, in the order of their time. */
export function expiredHoldings(
  db: Database, at: Instant, limit: number,
): { tagId: number, personId: number, expiresAt: Instant, eventId: number }[] {
  return prepare<ReturnType<typeof expiredHoldings>[number]>(db, `
    SELECT tag_id AS tagId, person_id AS personId, expires_at AS expiresAt, event_id AS eventId FROM tag_holdings
    WHERE expires_at IS NOT NULL AND expires_at <= ? ORDER BY expires_at, person_id, tag_id LIMIT ?`).all(at, limit)
}

/** True if the person had it. */
export function deleteHolding(db: Database, tagId: number, personId: number): boolean {
  return prepare(db, 'DELETE FROM tag_holdings WHERE tag_id = ? AND person_id = ?').run(tagId, personId).changes === 1
}

export function tagsOfPerson(
  db: Database, personId: number,
): { id: number, name: string, colour: string | null, sinceAt: Instant, expiresAt: Instant | null, eventId: number }[] {
  return prepare<ReturnType<typeof tagsOfPerson>[number]>(db, `
    SELECT t.id, t.name, t.colour, h.since_at AS sinceAt, h.expires_at AS expiresAt, h.event_id AS eventId FROM tag_holdings h
      JOIN tags t ON t.id = h.tag_id
    WHERE h.person_id = ? AND t.gone IS NULL ORDER BY h.since_at, t.name`).all(personId)
}
