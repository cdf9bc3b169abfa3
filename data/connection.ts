/** Opening a workspace's SQLite file, and the two ways of running a statement or a transaction on it. */
import Sqlite from 'better-sqlite3'
import { fold } from '#core/audience/condition'
import type { FieldValue } from '#core/people/field'
import { decayed } from '#core/score/score'
import { beginKeeping, endKeeping, isKeeping, keepAnew, noting } from './kept'

export type Database = Sqlite.Database

/** What SQLite answers for `synchronous = FULL`. */
const FULL = 2

export function openDatabase(file: string): Database {
  const db = configure(new Sqlite(file))
  // Two processes write: readers never wait for a writer, and a writer waits for another one.
  db.pragma('journal_mode = WAL')
  db.pragma(`busy_timeout = ${WAIT_MS}`)
  // A mark that is lost with the power would send an email twice, so a commit waits for the disk.
  db.pragma('synchronous = FULL')
  db.pragma('cache_size = -65536')
  return db
}

/** What every connection needs, of a file or in memory: our own functions, and rows that refer to nothing refused. */
export function configure(db: Database): Database {
  db.pragma('foreign_keys = ON')
  // Letters are compared without case in every script, as in memory; the database's own lower() knows A to Z only.
  db.function('fold', { deterministic: true }, value => fold(value as FieldValue))
  // What points are worth is one function, in memory and here.
  db.function('decayed', {
    deterministic: true,
  }, (value, from, to, halfLifeDays) => decayed(value as number, from as number, to as number, halfLifeDays as number))
  return db
}

const prepared = new WeakMap<Database, Map<string, Sqlite.Statement>>()

/** A prepared statement, parsed once per connection. `sql` is always a constant of data/. */
export function prepare<Row = unknown>(db: Database, sql: string): Sqlite.Statement<unknown[], Row> {
  let known = prepared.get(db)
  if (!known) prepared.set(db, known = new Map())
  let statement = known.get(sql)
  if (!statement) known.set(sql, statement = noting(db, sql, db.prepare(sql)))
  return statement as Sqlite.Statement<unknown[], Row>
}

/** How long a writer waits for another process, and how often it looks: often, so that it slips into the first gap that one leaves. */
const WAIT_MS = 5000
const LOOK_MS = 0.5
const sleeper = new Int32Array(new SharedArrayBuffer(4))

/**
 * A writing transaction. It is immediate: taking the write lock first means a
 * reading that decides a write cannot be out of date, and two writers queue
 * instead of failing. Inside another transaction it simply joins it.
 */
export function immediate<Result>(db: Database, work: () => Result): Result {
  if (db.inTransaction) return work()
  const giveUpAt = performance.now() + WAIT_MS
  for (;;) {
    let begun = false
    try {
      return transaction(db, () => {
        begun = true
        return work()
      })
    }
    catch (error) {
      if (begun || !isBusy(error) || performance.now() > giveUpAt) {
        // What was read and remembered inside may never have been true.
        remembered.delete(db)
        throw error
      }
      Atomics.wait(sleeper, 0, 0, LOOK_MS)
    }
  }
}

const runners = new WeakMap<Database, Sqlite.Transaction<(work: () => unknown) => unknown>>()

/** Runs a function in a transaction. One per connection, because creating it takes longer than beginning a transaction. */
function runnerOf(db: Database) {
  let runner = runners.get(db)
  if (!runner) runners.set(db, runner = db.transaction((work: () => unknown) => work()))
  return runner as Sqlite.Transaction<<Result>(work: () => Result) => Result>
}

/** A part of the transaction that is open: where it throws, only what it wrote is undone. */
export function savepoint<Result>(db: Database, work: () => Result): Result {
  try {
    return runnerOf(db)(work) as Result
  }
  catch (error) {
    // What was read and remembered inside is as undone as what was written.
    keepAnew(db)
    remembered.delete(db)
    throw error
  }
}

/** In pages of 4 kB: 64 MB. */
const LATE_CHECKPOINT = 16_384

/**
 * Copying what was written from the log into the file, with two waits for the
 * disk, is left to the other process that writes: this one has people waiting.
 * It does so all the same once the log has grown large, as the other may be gone.
 */
export function leaveCheckpointsToOthers(db: Database): void {
  db.pragma(`wal_autocheckpoint = ${LATE_CHECKPOINT}`)
}

/** Commits no longer wait for the disk, until {@link enableSync}. Only for a file that nobody uses yet and that can be made again. */
export function disableSync(db: Database): void {
  db.pragma('synchronous = OFF')
}

/** Commits wait for the disk again, and everything written before is on it. */
export function enableSync(db: Database): void {
  db.pragma('synchronous = FULL')
  db.pragma('wal_checkpoint(TRUNCATE)')
}

/**
 * For what nobody's request waits for, and what may be lost with the power: written if nobody else is writing just now, without
 * waiting for the disk. False, and nothing done, if somebody is. Outside of transactions.
 */
export function writeIfFree(db: Database, work: () => void): boolean {
  let begun = false
  const waitsForDisk = db.pragma('synchronous', { simple: true }) === FULL
  if (waitsForDisk) db.pragma('synchronous = NORMAL')
  try {
    transaction(db, () => {
      begun = true
      work()
    })
    return true
  }
  catch (error) {
    if (!begun && isBusy(error)) return false
    remembered.delete(db)
    throw error
  }
  finally {
    if (waitsForDisk) db.pragma('synchronous = FULL')
  }
}

/** The database's own way of waiting looks less and less often, and can miss every gap of a busy writer. */
function transaction<Result>(db: Database, work: () => Result): Result {
  // SQLite runs a pragma while preparing it, and prepares it again for each later run: only the first run has no effect.
  const waiting = prepare(db, `PRAGMA busy_timeout = ${WAIT_MS}`).pluck()
  const version = prepare(db, 'PRAGMA data_version').pluck()
  prepare(db, 'PRAGMA busy_timeout = 0').pluck().get()
  try {
    return runnerOf(db).immediate(() => {
      waiting.get()
      beginKeeping(db, version.get() as number)
      return work()
    }) as Result
  }
  finally {
    endKeeping(db)
    waiting.get()
  }
}

/** Another process was writing for longer than we waited: worth another try, unlike anything else. */
export const isBusy = (error: unknown): boolean => error instanceof Sqlite.SqliteError && error.code.startsWith('SQLITE_BUSY')

/** What is wrong with the file a database lives in, in words for its owner. */
export interface DatabaseTrouble { kind: 'locked' | 'full' | 'read-only' | 'damaged' | 'unreadable', sentence: string }

const TROUBLES: [code: RegExp, DatabaseTrouble][] = [
  [/^SQLITE_(BUSY|LOCKED|PROTOCOL)/, {
    kind: 'locked', sentence: 'Another program keeps the database locked. Nothing was changed; it goes on by itself once the lock is gone.',
  }],
  [/^SQLITE_FULL/, { kind: 'full', sentence: 'The disk is full. Nothing was changed; make room, and it goes on by itself.' }],
  [/^SQLITE_READONLY|^SQLITE_PERM/, {
    kind: 'read-only',
    sentence: 'The data folder cannot be written to. Nothing was changed; allow writing to it, and it goes on by itself.',
  }],
  [
    /^SQLITE_(CORRUPT|NOTADB)/,
    { kind: 'damaged', sentence: 'The database file is damaged. Nothing was changed; put back a backup of the data folder.' },
  ],
  [/^SQLITE_(IOERR|CANTOPEN)/, {
    kind: 'unreadable',
    sentence: 'The database file cannot be read or written: the disk may be full or gone. Nothing was changed; it goes on by itself once that is mended.',
  }],
]

/** Null for anything that the file is not to blame for. */
export function databaseTrouble(error: unknown): DatabaseTrouble | null {
  if (!(error instanceof Sqlite.SqliteError)) return null
  return TROUBLES.find(([code]) => code.test(error.code))?.[1] ?? null
}

const remembered = new WeakMap<Database, Map<string, Map<number, unknown>>>()

const MOST_REMEMBERED = 2000

/** Rows that never change once written, kept after the first reading; forgotten when a transaction fails. */
export function memoize<Row>(db: Database, table: string, id: number, read: () => Row): Row {
  let tables = remembered.get(db)
  if (!tables) remembered.set(db, tables = new Map())
  let rows = tables.get(table)
  if (!rows) tables.set(table, rows = new Map())
  if (rows.has(id)) return rows.get(id) as Row
  // Of what was read first least is wanted again.
  if (rows.size >= MOST_REMEMBERED) rows.delete(rows.keys().next().value!)
  const row = read()
  rows.set(id, row)
  return row
}

/** Several readings of one moment. */
export function readTogether<Result>(db: Database, work: () => Result): Result {
  return db.inTransaction ? work() : runnerOf(db).deferred(work) as Result
}

/** The same, and rows may be kept as in a writing transaction, so nobody may change them. */
export function readKeeping<Result>(db: Database, work: () => Result): Result {
  return readTogether(db, () => {
    if (isKeeping(db)) return work()
    beginKeeping(db, prepare<number>(db, 'PRAGMA data_version').pluck().get()!)
    try {
      return work()
    }
    finally {
      endKeeping(db)
    }
  })
}

/**
 * Counts samples of what the tables hold, by which the database chooses its ways. Connections opened later go by it. A fraction of a
 * second.
 */
export function refreshStatistics(db: Database): void {
  db.pragma('analysis_limit = 400')
  db.exec('ANALYZE')
}
