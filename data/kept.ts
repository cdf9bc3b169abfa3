/**
 * What was read in a writing transaction, kept until one of its tables is written there: nobody else can write them meanwhile. The settings
 * of the workspace, a course or a tag are read with every step of everybody, and what is known of a person with every rule.
 */
import type Sqlite from 'better-sqlite3'

interface Kept {
  /** Counts up with every write. */
  now: number
  /** When each table was last written. */
  written: Map<string, number>
  rows: Map<string, { asOf: number, row: unknown }>
}

const underWay = new WeakMap<Sqlite.Database, Kept>()

export const beginKeeping = (db: Sqlite.Database): unknown => underWay.set(db, { now: 0, written: new Map(), rows: new Map() })
export const endKeeping = (db: Sqlite.Database): unknown => underWay.delete(db)

/** Tables that hardly ever change. Those that triggers count up by them need no place of their own. */
const STEADY = [
  'workspace', 'courses', 'course_ways_in', 'course_ways_in_lists', 'course_versions', 'tags', 'lists', 'fields', 'segments', 'rules',
  'links', 'senders', 'mail_domains',
  'offers', 'offer_versions', 'replannings',
] as const

/** Stands for them all. */
const ANY_STEADY = '(steady)'
const OF_STEADY = [ANY_STEADY] as const

/**
 * What `read` finds in these tables, and in no others, once in a writing transaction for each `key`; outside of one it is read anew each
 * time. Nobody may change it.
 */
export function keep<Row>(db: Sqlite.Database, tables: readonly (KeptTable | typeof ANY_STEADY)[], key: string, read: () => Row): Row {
  const kept = underWay.get(db)
  if (!kept) return read()
  const { written, rows } = kept
  const known = rows.get(key)
  if (known && !writtenSince(written, tables, known.asOf)) return known.row as Row
  const asOf = kept.now
  const row = read()
  rows.set(key, { asOf, row })
  return row
}

function writtenSince(written: Kept['written'], tables: readonly string[], asOf: number): boolean {
  if (written.size > 0) for (const table of tables) if ((written.get(table) ?? 0) > asOf) return true
  return false
}

/** The same of tables that hardly ever change. */
export const keepSteady = <Row>(db: Sqlite.Database, key: string, read: () => Row): Row => keep(db, OF_STEADY, key, read)

/** Those of which something is kept, besides. */
const KEPT = [
  ...STEADY, 'people', 'touches', 'list_members', 'tag_holdings', 'field_values', 'opt_ins', 'outbox', 'opens', 'clicks', 'enrolments',
  'purchases',
  'checkouts', 'waits', 'said_no_more', 'rule_firings', 'scores',
] as const

export type KeptTable = typeof KEPT[number]

const WRITTEN = /\b(?:INTO|UPDATE(?:\s+OR\s+\w+)?|DELETE\s+FROM)\s+(\w+)/g

/** The same statement; what it writes is read anew from then on. No table of ours is emptied by another's deletions. */
export function noting(db: Sqlite.Database, sql: string, statement: Sqlite.Statement): Sqlite.Statement {
  const tables = [...sql.matchAll(WRITTEN)].map(([, table]) => table!).filter(table => (KEPT as readonly string[]).includes(table))
  if (tables.length === 0) return statement
  if (tables.some(table => (STEADY as readonly string[]).includes(table))) tables.push(ANY_STEADY)
  for (const way of ['run', 'get', 'all'] as const) {
    const really = statement[way].bind(statement) as (...values: unknown[]) => unknown
    Object.assign(statement, {
      [way](...values: unknown[]) {
        const kept = underWay.get(db)
        if (kept) {
          kept.now++
          for (const table of tables) kept.written.set(table, kept.now)
        }
        return really(...values)
      },
    })
  }
  return statement
}
