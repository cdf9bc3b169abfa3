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
  /** Committed rows of tables that hardly ever change; null once this transaction has written to one of them. */
  committed: Map<string, unknown> | null
}

const underWay = new WeakMap<Sqlite.Database, Kept>()

/**
 * Rows of tables that hardly ever change, kept from one transaction to the next until another connection commits anything or this one
 * writes to one of those tables.
 */
const lasting = new WeakMap<Sqlite.Database, { version: number, rows: Map<string, unknown> }>()
const MOST_LASTING = 5000

const newKept = (committed: Kept['committed']): Kept => ({ now: 0, written: new Map(), rows: new Map(), committed })

/** `version`: the value of `PRAGMA data_version` within the transaction. */
export function beginKeeping(db: Sqlite.Database, version: number): void {
  let known = lasting.get(db)
  if (known?.version !== version || known.rows.size > MOST_LASTING) lasting.set(db, known = { version, rows: new Map() })
  underWay.set(db, newKept(known.rows))
}

/** Part of the transaction was rolled back, so rows read in it may be wrong. */
export function keepAnew(db: Sqlite.Database): void {
  underWay.set(db, newKept(underWay.get(db)?.committed ?? null))
}

export const isKeeping = (db: Sqlite.Database): boolean => underWay.has(db)

export const endKeeping = (db: Sqlite.Database): unknown => underWay.delete(db)

/** Tables that hardly ever change. Those that triggers count up by them need no place of their own. */
const STEADY = [
  'workspace', 'courses', 'course_ways_in', 'course_ways_in_lists', 'course_versions', 'tags', 'lists', 'fields', 'segments', 'rules',
  'links', 'senders', 'mail_domains', 'sends', 'offers', 'offer_versions', 'replannings',
] as const

/** Stands for them all. */
const ANY_STEADY = '(steady)'
const OF_STEADY = [ANY_STEADY] as const

/**
 * What `read` finds in these tables, and in no others. It is read once for each `key` in a writing transaction or in `readKeeping`, and
 * each time anywhere else. Nobody may change it.
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
export function keepSteady<Row>(db: Sqlite.Database, key: string, read: () => Row): Row {
  const committed = underWay.get(db)?.committed
  if (!committed) return keep(db, OF_STEADY, key, read)
  if (committed.has(key)) return committed.get(key) as Row
  const row = read()
  committed.set(key, row)
  return row
}

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
  const isSteady = tables.some(table => (STEADY as readonly string[]).includes(table))
  if (isSteady) tables.push(ANY_STEADY)
  for (const way of ['run', 'get', 'all'] as const) {
    const really = statement[way].bind(statement) as (...values: unknown[]) => unknown
    Object.assign(statement, {
      [way](...values: unknown[]) {
        const kept = underWay.get(db)
        if (isSteady) lasting.delete(db)
        if (kept) {
          if (isSteady) kept.committed = null
          kept.now++
          for (const table of tables) kept.written.set(table, kept.now)
        }
        return really(...values)
      },
    })
  }
  return statement
}
