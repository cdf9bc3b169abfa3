/**
 * Commits that wait for the disk beside other work. What is committed stands in the write-ahead log; it survives a loss of power once the
 * log is on the disk (https://www.sqlite.org/wal.html). SQLite can only stop everything until it is; here the wait is a promise.
 */
import { closeSync, fdatasync, openSync } from 'node:fs'
import { promisify } from 'node:util'
import { immediate, type Database } from './connection'

const syncFile = promisify(fdatasync)

/** A writing transaction as by `immediate`, except that a loss of power can undo it until the next {@link logSynced} resolves. */
export function immediateUnsynced<Result>(db: Database, work: () => Result): Result {
  if (db.inTransaction || !waitsForDisk(db)) return immediate(db, work)
  // Not from kept statements: this pragma acts when it is prepared.
  db.pragma('synchronous = NORMAL')
  try {
    return immediate(db, work)
  }
  finally {
    db.pragma('synchronous = FULL')
  }
}

/** What SQLite answers for `synchronous = FULL`. */
const FULL = 2
const waitsForDisk = (db: Database): boolean => !db.memory && db.pragma('synchronous', { simple: true }) === FULL

interface Log { file: number, running: Promise<void>, next: Promise<void> | null }
const logs = new WeakMap<Database, Log>()

/**
 * Resolves once everything that is committed by now is on the disk. Rejects where the disk fails. Calls while it is busy share its next
 * turn.
 */
export function logSynced(db: Database): Promise<void> {
  if (!waitsForDisk(db)) return Promise.resolve()
  const log = logOf(db)
  // What runs may have begun before the last commit.
  return log.next ??= log.running.catch(() => undefined).then(() => {
    log.next = null
    return log.running = syncFile(log.file)
  })
}

/** Stays the same file for as long as the connection is open. */
function logOf(db: Database): Log {
  let log = logs.get(db)
  if (!log) {
    logs.set(db, log = { file: openSync(`${db.name}-wal`, 'r+'), running: Promise.resolve(), next: null })
    const kept = log
    const close = db.close.bind(db)
    db.close = () => {
      void (kept.next ?? kept.running).catch(() => undefined).then(() => closeSync(kept.file))
      return close()
    }
  }
  return log
}
