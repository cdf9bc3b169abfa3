/** What is known about one person, for conditions; and everybody a condition holds for. */
import type { EmailFacts, PersonFacts, PurchaseFacts } from '#core/audience/meaning'
import type { SqlCondition } from '#core/audience/sql'
import { within } from '#core/maps'
import { sourceOf, type Touch } from '#core/page/touch'
import type { Database } from './connection'
import { waitsOfPerson } from './waits'
import { prepare } from './connection'
import { keep, type KeptTable } from './kept'
import { fieldsOfPerson } from './fields'
import { saidNoMore } from './purchases'
import { scoreOf } from './scores'

type Own = Pick<PersonFacts, 'id' | 'status' | 'source' | 'createdAt' | 'zone' | 'country' | 'consentAt' | 'readAt' | 'fetchedAt'>

const ownOf = (db: Database, personId: number): Own | undefined => keep(db, ['people'], `own facts of ${personId}`, () => prepare<Own>(db, `
  SELECT id, status, source, created_at AS createdAt, zone, country, consent_at AS consentAt, read_at AS readAt, fetched_at AS fetchedAt
  FROM people WHERE id = ? AND gone IS NULL`).get(personId))

/**
 * The facts about a person. Each part is read on first use, because most conditions need one or two. Use it for one moment only. Undefined
 * if there is no such person.
 */
export function lazyFacts(db: Database, personId: number): PersonFacts | undefined {
  const own = ownOf(db, personId)
  return own && new Lazy(db, own) as unknown as PersonFacts
}

interface Part<Facts> {
  /** The tables that it is read from. */
  tables: readonly KeptTable[]
  /** What is nothing is an empty list or an object. */
  read(db: Database, personId: number): Facts
}

/** All rows of one statement that asks for a person. */
const rowsOf = <Row>(sql: string) => (db: Database, personId: number): Row[] => prepare<Row>(db, sql).all(personId)

const EMAILS = `
  SELECT id, kind, owner_id AS ownerId, item_id AS itemId, planned_at AS plannedAt, status, repeats, go_at AS goAt,
    handed_over_at AS handedOverAt,
    left_at AS leftAt, clicked_at IS NOT NULL AS clicked
  FROM outbox WHERE person_id = ?`
const OPENS = `
  SELECT r.outbox_id AS outboxId, r.at, r.judged = 'reader' AS certain FROM outbox o JOIN opens r ON r.outbox_id = o.id
  WHERE o.person_id = ? AND o.handed_over_at IS NOT NULL`
const CLICKS = `
  SELECT r.outbox_id AS outboxId, r.at, k.url, k.link_id AS linkId
  FROM outbox o JOIN clicks r ON r.outbox_id = o.id JOIN message_links k ON k.message_id = o.message_id AND k.n = r.link_n
  WHERE o.person_id = ? AND o.clicked_at IS NOT NULL AND r.judged = 'reader'`
const BROUGHT = `
  SELECT w.value AS which, t.named, t.source, t.referrer FROM people p JOIN json_each('["first", "latest"]') w
  JOIN touches t ON t.id = CASE w.value WHEN 'first' THEN p.first_touch_id ELSE p.latest_touch_id END WHERE p.id = ?`
const PURCHASES = `
  SELECT offer_id AS offerId, bought_at AS at, currency, paid, refunded, disputed, refused_at IS NOT NULL AS refused,
    over_at IS NOT NULL AS over
  FROM purchases WHERE person_id = ?`
const OPT_INS = `
  SELECT page_id AS pageId, touch_id AS touchId, result_id AS resultId, at, confirmed_at AS confirmedAt, fetched_at AS fetchedAt
  FROM opt_ins WHERE person_id = ?`

type MailRow = Omit<EmailFacts, 'opens' | 'uncertainOpens' | 'clicks' | 'triedAgain'>
  & { id: number, goAt: number | null, clicked: 0 | 1 }
interface OpenRow { outboxId: number, at: number, certain: 0 | 1 }
interface ClickRow { outboxId: number, at: number, url: string, linkId: number }

/** Each part of what is known of someone. */
const PARTS: { [Name in Exclude<keyof PersonFacts, keyof Own>]: Part<PersonFacts[Name]> } = {
  lists: {
    tables: ['list_members'],
    read: (db, personId) => rowsOf<{ listId: number, left: 0 | 1 }>(
      'SELECT list_id AS listId, left_at IS NOT NULL AS left FROM list_members WHERE person_id = ?')(db, personId)
      .map(({ listId, left }) => ({ listId, left: left === 1 })),
  },
  tags: { tables: ['tag_holdings'], read: rowsOf('SELECT tag_id AS tagId, since_at AS sinceAt FROM tag_holdings WHERE person_id = ?') },
  fields: { tables: ['field_values', 'fields'], read: fieldsOfPerson },
  brought: {
    tables: ['people', 'touches'],
    read(db, personId) {
      const brought = rowsOf<{ which: 'first' | 'latest' } & Pick<Touch, 'named' | 'source' | 'referrer'>>(BROUGHT)(db, personId)
      const source = (which: 'first' | 'latest') => brought.filter(row => row.which === which).map(sourceOf)[0] ?? null
      return { first: source('first'), latest: source('latest') }
    },
  },
  purchases: {
    tables: ['purchases'],
    read: (db, personId) => rowsOf<Omit<PurchaseFacts, 'refused' | 'over'> & { refused: 0 | 1, over: 0 | 1 }>(PURCHASES)(db, personId)
      .map(row => ({ ...row, refused: row.refused === 1, over: row.over === 1 })),
  },
  checkouts: {
    tables: ['checkouts'],
    read: (db, personId) => rowsOf<{ offerId: number, at: number, state: string }>(
      `SELECT offer_id AS offerId, started_at AS at, state FROM checkouts WHERE person_id = ? AND state <> 'replaced'`)(db, personId)
      .map(({ offerId, at, state }) => ({ offerId, at, abandoned: state === 'abandoned' })),
  },
  waits: { tables: ['waits'], read: (db, personId) => waitsOfPerson(db, personId).map(({ offerId }) => offerId) },
  noMore: { tables: ['said_no_more'], read: (db, personId) => saidNoMore(db, personId).map(({ offerId }) => offerId) },
  acted: { tables: ['rule_firings'], read: rowsOf('SELECT rule_id AS ruleId, at FROM rule_firings WHERE person_id = ?') },
  score: { tables: ['scores'], read: (db, personId) => ({ known: scoreOf(db, personId) }) },
  optIns: { tables: ['opt_ins'], read: rowsOf(OPT_INS) },
  emails: {
    tables: ['outbox', 'opens', 'clicks'],
    read(db, personId) {
      const emails = rowsOf<MailRow>(EMAILS)(db, personId)
      const opens = new Map<number, { certain: number[], uncertain: number[] }>()
      for (const { outboxId, at, certain } of emails.length > 0 ? rowsOf<OpenRow>(OPENS)(db, personId) : []) {
        within(opens, outboxId, () => ({ certain: [], uncertain: [] }))[certain ? 'certain' : 'uncertain'].push(at)
      }
      const clicks = new Map<number, EmailFacts['clicks']>()
      for (const { outboxId, at, url, linkId } of emails.some(({ clicked }) => clicked) ? rowsOf<ClickRow>(CLICKS)(db, personId) : []) {
        within(clicks, outboxId, () => []).push({ at, url, linkId })
      }
      return emails.map(({ id, kind, ownerId, itemId, plannedAt, status, repeats, goAt, handedOverAt, leftAt }): EmailFacts => {
        const those = opens.get(id)
        return {
          kind, ownerId, itemId, plannedAt, status, repeats, triedAgain: goAt !== null, handedOverAt, leftAt,
          opens: those?.certain ?? [], uncertainOpens: those?.uncertain ?? [], clicks: clicks.get(id) ?? [],
        }
      })
    },
  },
  enrolments: {
    tables: ['enrolments'], read: rowsOf('SELECT course_id AS courseId, status, step_id AS stepId FROM enrolments WHERE person_id = ?'),
  },
}

const NAMES = Object.keys(PARTS) as (keyof typeof PARTS)[]

/** What has been read of someone so far; every other part is a getter that reads it. */
class Lazy {
  declare id: number
  readonly known = new Map<string, unknown>()
  constructor(readonly db: Database, own: Own) {
    Object.assign(this, own)
  }
}
for (const name of NAMES) {
  const { tables, read } = PARTS[name]
  Object.defineProperty(Lazy.prototype, name, {
    get(this: Lazy) {
      const { db, id, known } = this
      if (!known.has(name)) known.set(name, keep<unknown>(db, tables, `${name} of ${id}`, () => read(db, id)))
      return known.get(name)
    },
  })
}

/** Everybody for whom the condition holds, by id. */
export function peopleWhere(db: Database, where: SqlCondition): number[] {
  return db.prepare<unknown[], { id: number }>(`SELECT p.id FROM people p WHERE p.gone IS NULL AND ${where.sql} ORDER BY p.id`)
    .all(...where.values).map(row => row.id)
}

/** How many of them each reason holds for, the first that does; under null those for whom none does. */
export function countByReason<Reason extends string>(db: Database, where: SqlCondition, reasons: [
  Reason, SqlCondition,
][]): Map<Reason | null, number> {
  const cases = reasons.map(([, compiled], n) => `WHEN ${compiled.sql} THEN ${n}`).join(' ')
  const rows = db.prepare<unknown[], { n: number | null, people: number }>(`
    SELECT CASE ${cases} END AS n, count(*) AS people FROM people p WHERE p.gone IS NULL AND ${where.sql} GROUP BY 1`)
    .all(...reasons.flatMap(([, compiled]) => compiled.values), ...where.values)
  return new Map(rows.map(({ n, people }) => [n === null ? null : reasons[n]![0], people]))
}

/** How many of them are in which zone, the most first; null for those of whom it is not known. */
export function countByZone(db: Database, where: SqlCondition): { zone: string | null, people: number }[] {
  return db.prepare<unknown[], { zone: string | null, people: number }>(`
    SELECT p.zone, count(*) AS people FROM people p WHERE p.gone IS NULL AND ${where.sql} GROUP BY p.zone ORDER BY people DESC, p.zone`)
    .all(...where.values)
}

/** How many of them have their address at which domain, the most first. */
export function countByDomain(db: Database, where: SqlCondition): { domain: string, people: number }[] {
  return db.prepare<unknown[], { domain: string, people: number }>(`
    SELECT substr(p.address_key, instr(p.address_key, '@') + 1) AS domain, count(*) AS people FROM people p
    WHERE p.gone IS NULL AND ${where.sql} GROUP BY 1 ORDER BY people DESC, 1`).all(...where.values)
}

/** First reader opens of their emails since `from`, by zone and by the whole hours of UTC since 1970. */
export function opensByHour(db: Database, where: SqlCondition, from: number): { zone: string | null, hour: number, opens: number }[] {
  return db.prepare<unknown[], { zone: string | null, hour: number, opens: number }>(`
    SELECT p.zone, CAST(o.opened_at / 3600000 AS INTEGER) AS hour, count(*) AS opens FROM people p JOIN outbox o ON o.person_id = p.id
    WHERE p.gone IS NULL AND ${where.sql} AND o.opened_at >= ? GROUP BY 1, 2`).all(...where.values, from)
}

/** A few of them, the last to arrive first. */
export function sampleOf(db: Database, where: SqlCondition, limit: number): { id: number, address: string, firstName: string }[] {
  return db.prepare<unknown[], { id: number, address: string, firstName: string }>(`
    SELECT p.id, p.address, p.first_name AS firstName FROM people p WHERE p.gone IS NULL AND ${where.sql} ORDER BY p.created_at DESC,
      p.id DESC LIMIT ?`).all(...where.values, limit)
}

/** For each segment with anybody in both: how many are in it, and how many of these the condition holds for. */
export function overlapWith(db: Database, where: SqlCondition): Map<number, { people: number, both: number }> {
  const rows = db.prepare<unknown[], { id: number, people: number, both: number }>(`
    WITH found AS MATERIALIZED (SELECT p.id FROM people p WHERE p.gone IS NULL AND ${where.sql})
    SELECT i.segment_id AS id, count(*) AS people, sum(i.person_id IN found) AS both FROM segment_people i WHERE i.inside = 1
      GROUP BY i.segment_id HAVING both > 0`).all(...where.values)
  return new Map(rows.map(({ id, people, both }) => [id, { people, both }]))
}

/**
 * How many of those for whom `where` holds get which version: of each choice the number of the first condition that fits, or how many
 * there are where none does. The most first; `someone`: the last of them to arrive.
 */
export function countVersions(
  db: Database, where: SqlCondition, choices: readonly (readonly SqlCondition[])[],
): { chosen: number[], people: number, someone: number }[] {
  const cases = choices.map(fits => fits.length === 0
    ? '0'
    : `CASE ${fits.map(({ sql }, n) => `WHEN ${sql} THEN ${n}`).join(' ')} ELSE ${fits.length} END`)
  const rows = db.prepare<unknown[], { chosen: string, people: number, someone: number }>(`
    SELECT json_array(${cases.join(', ')}) AS chosen, count(*) AS people, max(p.id) AS someone
    FROM people p WHERE p.gone IS NULL AND ${where.sql} GROUP BY 1 ORDER BY people DESC, chosen`)
    .all(...choices.flatMap(fits => fits.flatMap(({ values }) => values)), ...where.values)
  return rows.map(row => ({ ...row, chosen: JSON.parse(row.chosen) as number[] }))
}
