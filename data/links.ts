/** The library of tracked links, and who followed them. */
import type { Action } from '#core/rules/rule'
import type { SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { LinkInput } from '#core/views/links'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const LINKS_DUE: Due = { rows: 'links WHERE check_due_at IS NOT NULL', at: 'check_due_at' }

export interface LinkRow extends LinkInput {
  id: number
  madeAt: Instant
  checkedAt: Instant | null
  /** Why the destination did not answer, the last time it was looked at; null while it does. */
  trouble: string | null
  troubleSinceAt: Instant | null
}

type Raw = Omit<LinkRow, 'does' | 'asks'> & { does: string, asks: 0 | 1 }

const LINK = `
  SELECT id, name, url, note, does, asks, made_at AS madeAt, checked_at AS checkedAt, trouble, trouble_since_at AS troubleSinceAt
  FROM links`
const parse = (row: Raw): LinkRow => ({ ...row, does: JSON.parse(row.does) as Action[], asks: row.asks === 1 })

export function allLinks(db: Database): LinkRow[] {
  return prepare<Raw>(db, `${LINK} WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE, id`).all().map(parse)
}

/** Also one that was taken out of the library: emails that have it still lead by it. */
export function findLink(db: Database, id: number): LinkRow | undefined {
  const row = prepare<Raw>(db, `${LINK} WHERE id = ?`).get(id)
  return row && parse(row)
}

export function linkNames(db: Database): { id: number, name: string }[] {
  return prepare<{ id: number, name: string }>(db, 'SELECT id, name FROM links WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE').all()
}

export function isInLibrary(db: Database, id: number): boolean {
  return prepare(db, 'SELECT 1 FROM links WHERE id = ? AND ended_at IS NULL').get(id) !== undefined
}

export function insertLink(db: Database, link: LinkInput, at: Instant): number {
  return Number(prepare(
    db, 'INSERT INTO links (name, url, note, does, asks, made_at, changed_at, check_due_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
    .run(link.name, link.url, link.note, JSON.stringify(link.does), link.asks ? 1 : 0, at, at, at).lastInsertRowid)
}

/** Another destination is looked at soon. */
export function updateLink(db: Database, id: number, link: LinkInput, at: Instant): void {
  prepare(db, `UPDATE links SET check_due_at = CASE WHEN url = @url THEN check_due_at ELSE @at END,
    trouble = CASE WHEN url = @url THEN trouble END, trouble_since_at = CASE WHEN url = @url THEN trouble_since_at END,
    name = @name, url = @url, note = @note, does = @does, asks = @asks, changed_at = @at WHERE id = @id`)
    .run({ id, at, name: link.name, url: link.url, note: link.note, does: JSON.stringify(link.does), asks: link.asks ? 1 : 0 })
}

export function endLink(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE links SET ended_at = ?, check_due_at = NULL WHERE id = ?').run(at, id)
}

/** A page of ours has another address: every link to it leads there, also in emails that have gone. */
export function moveLinks(db: Database, from: string, to: string, at: Instant): void {
  prepare(db, 'UPDATE links SET url = @to, check_due_at = @at, trouble = NULL, trouble_since_at = NULL WHERE url = @from').run({
    from, to, at,
  })
}

/** The link of the library for an address that was typed in an email; made there if there is none yet. */
export function linkForUrl(db: Database, url: string, label: string, at: Instant): number {
  const known = prepare<{ id: number }>(db, 'SELECT id FROM links WHERE url = ? AND ended_at IS NULL ORDER BY id LIMIT 1').get(url)?.id
  return known ?? insertLink(db, { name: label.trim().slice(0, 80) || url.slice(0, 80), url, note: '', does: [], asks: false }, at)
}

/** An answer to a question leads nowhere: its link is none of the library, and never looked at. */
export function linkOfAnswer(db: Database, url: string, label: string, at: Instant): number {
  const known = prepare<{ id: number }>(db, 'SELECT id FROM links WHERE url = ? ORDER BY id LIMIT 1').get(url)?.id
  if (known !== undefined) return known
  const id = insertLink(db, { name: label.trim().slice(0, 80) || 'an answer', url, note: '', does: [], asks: false }, at)
  endLink(db, id, at)
  return id
}

/* Whether destinations answer */

export function linksToCheck(db: Database, at: Instant, limit: number): LinkRow[] {
  return prepare<Raw>(db, `${LINK} WHERE check_due_at IS NOT NULL AND check_due_at <= ? ORDER BY check_due_at, id LIMIT ?`).all(at, limit)
    .map(parse)
}

export function postponeLinkCheck(db: Database, ids: number[], until: Instant): void {
  prepare(db, 'UPDATE links SET check_due_at = ? WHERE id IN (SELECT value FROM json_each(?))').run(until, JSON.stringify(ids))
}

/** Nothing is kept if it leads somewhere else by now. */
export function saveLinkCheck(
  db: Database, id: number, url: string, { at, trouble, nextAt }: { at: Instant, trouble: string | null, nextAt: Instant },
): void {
  prepare(db, `UPDATE links SET checked_at = @at, trouble = @trouble,
    trouble_since_at = CASE WHEN @trouble IS NULL THEN NULL ELSE coalesce(trouble_since_at, @at) END, check_due_at = @nextAt
    WHERE id = @id AND url = @url AND ended_at IS NULL`).run({ id, url, at, trouble, nextAt })
}

/** Those that did not answer the last time, the longest first. */
export function linksInTrouble(db: Database): LinkRow[] {
  return prepare<Raw>(db, `${LINK} WHERE trouble IS NOT NULL AND ended_at IS NULL ORDER BY trouble_since_at, id`).all().map(parse)
}

/* What following them brought */

/** One thing that following did: what came of it, and how it stood before. */
export interface LinkAct { action: Action, outcome: string, before: unknown }
export interface LinkActs {
  eventId: number, personId: number, linkId: number, label: string, at: Instant, acts: LinkAct[], undoneAt: Instant | null,
}

export function insertLinkActs(db: Database, row: Omit<LinkActs, 'undoneAt'>): void {
  prepare(db, 'INSERT INTO link_acts (event_id, person_id, link_id, label, at, acts) VALUES (?, ?, ?, ?, ?, ?)').run(
    row.eventId, row.personId, row.linkId, row.label, row.at, JSON.stringify(row.acts),
  )
}

const ACTS = 'SELECT event_id AS eventId, person_id AS personId, link_id AS linkId, label, at, acts, undone_at AS undoneAt FROM link_acts'
const parseActs = (row: Omit<LinkActs, 'acts'> & { acts: string }): LinkActs => ({ ...row, acts: JSON.parse(row.acts) as LinkAct[] })

export function linkActsOf(db: Database, eventId: number): LinkActs | undefined {
  const row = prepare<Omit<LinkActs, 'acts'> & { acts: string }>(db, `${ACTS} WHERE event_id = ?`).get(eventId)
  return row && parseActs(row)
}

/** What somebody's following brought since an instant and is not taken back, newest first. */
export function linkActsSince(db: Database, personId: number, since: Instant): LinkActs[] {
  return prepare<Omit<LinkActs, 'acts'> & { acts: string }>(
    db, `${ACTS} WHERE person_id = ? AND at >= ? AND undone_at IS NULL ORDER BY at DESC, event_id DESC`,
  ).all(personId, since).map(parseActs)
}

export function markLinkActsUndone(db: Database, eventId: number, at: Instant): void {
  prepare(db, 'UPDATE link_acts SET undone_at = ? WHERE event_id = ?').run(at, eventId)
}

/* Results */

const FOLLOWED = `FROM message_links k JOIN outbox o ON o.message_id = k.message_id JOIN clicks c ON c.outbox_id = o.id AND c.link_n = k.n`

export interface LinkCounts { people: number, clicks: number, machines: number, lastAt: Instant | null }

/** Per link: readers, their clicks, and what machines followed. */
export function linkCounts(db: Database): Map<number, LinkCounts> {
  return new Map(prepare<{ id: number } & LinkCounts>(db, `
    SELECT k.link_id AS id, count(DISTINCT CASE WHEN c.judged = 'reader' THEN o.person_id END) AS people,
      sum(c.judged = 'reader') AS clicks, sum(c.judged = 'scanner') AS machines, max(CASE WHEN c.judged = 'reader' THEN c.at END) AS lastAt
    ${FOLLOWED} WHERE c.judged IS NOT NULL GROUP BY k.link_id`).all().map(({ id, ...row }) => [id, row]))
}

export interface LinkPlace extends SendOf { n: number, label: string, emailTitle: string, sent: number, people: number, clicks: number }

/** Per email and place in it: how many were sent, who followed it there, and how often. */
export function linkPlaces(db: Database, linkId: number): LinkPlace[] {
  return prepare<LinkPlace>(db, `
    SELECT o.kind, o.owner_id AS ownerId, o.item_id AS itemId, k.n, max(k.label) AS label, max(m.working_title) AS emailTitle,
      count(DISTINCT o.id) AS sent,
      count(DISTINCT CASE WHEN c.judged = 'reader' THEN o.person_id END) AS people, coalesce(sum(c.judged = 'reader'), 0) AS clicks
    FROM message_links k JOIN outbox o ON o.message_id = k.message_id AND o.handed_over_at IS NOT NULL
      JOIN messages m ON m.id = k.message_id LEFT JOIN clicks c ON c.outbox_id = o.id AND c.link_n = k.n
    WHERE k.link_id = ? GROUP BY o.send_id, k.n ORDER BY clicks DESC, sent DESC, o.kind, o.owner_id, o.item_id, k.n`).all(linkId)
}

/** Every click of a reader, oldest first. */
export function clicksOfLink(db: Database, linkId: number): { personId: number, at: Instant }[] {
  return prepare<{ personId: number, at: Instant }>(
    db, `SELECT o.person_id AS personId, c.at ${FOLLOWED} WHERE k.link_id = ? AND c.judged = 'reader' ORDER BY c.at, c.id`,
  ).all(linkId)
}

/** Of those who followed it, how many did this within so long after the first time: bought something, left everything or a list. */
export function didNext(db: Database, linkId: number, withinMs: number): { bought: number, left: number } {
  return prepare<{ bought: number, left: number }>(db, `
    WITH firsts AS (SELECT o.person_id, min(c.at) AS at ${FOLLOWED} WHERE k.link_id = @linkId AND c.judged = 'reader' GROUP BY o.person_id)
    SELECT count(CASE WHEN EXISTS (SELECT 1
      FROM purchases p WHERE p.person_id = f.person_id AND p.bought_at >= f.at AND p.bought_at <= f.at + @withinMs) THEN 1 END) AS bought,
      count(CASE WHEN EXISTS (SELECT 1
        FROM events e WHERE e.person_id = f.person_id AND e.kind IN ('unsubscribed', 'left-list') AND e.at >= f.at
          AND e.at <= f.at + @withinMs) THEN 1 END) AS left FROM firsts f`).get({ linkId, withinMs })!
}

/** What single uses of a link bring, each said once. */
export function usesThatDo(db: Database): Map<number, Action[]> {
  const found = new Map<number, Action[]>()
  for (const { id, does } of prepare<{ id: number, does: string }>(
    db, `SELECT DISTINCT link_id AS id, does FROM message_links WHERE does <> '[]'`,
  ).all()) found.set(id, [...found.get(id) ?? [], ...JSON.parse(does) as Action[]])
  return found
}

/** How many different emails have it, sent or to be sent. */
export function emailsWith(db: Database): Map<number, number> {
  return new Map(prepare<{ id: number, n: number }>(db, `
    SELECT k.link_id AS id, count(DISTINCT m.kind || '/' || m.owner_id || '/' || m.item_id) AS n FROM message_links k
    JOIN messages m ON m.id = k.message_id GROUP BY k.link_id`).all().map(({ id, n }) => [id, n]))
}
