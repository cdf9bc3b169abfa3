/** Everything a workspace file holds, to compare two of them. */
import { createHash } from 'node:crypto'
import { cpSync } from 'node:fs'
import Sqlite from 'better-sqlite3'
import { join } from 'node:path'
import { temporaryFolder } from '../temporary'

/** A copy of a closed workspace folder. */
export function copyOf(folder: string): string {
  const copy = temporaryFolder()
  cpSync(folder, copy, { recursive: true })
  return copy
}

/**
 * What goes by the system's clock is the one thing in which two runs of the same may differ: who held a lease, and until when; until when
 * an email stood as it was;
 */
const OF_THE_MACHINE = ['lease_owner', 'lease_until_at', 'stood_until_at']
/** and the sign between the parts of an email, which is thrown anew for each. */
const BOUNDARY = /--_NmP-[\w-]+/g

function asText(row: Record<string, unknown>): string {
  return JSON.stringify(Object.entries(row).filter(([key]) => !OF_THE_MACHINE.includes(key))
    .map(([, value]) =>
      Buffer.isBuffer(value) ? createHash('sha256').update(value.toString('latin1').replaceAll(BOUNDARY, '')).digest('hex') : value))
}

/** The rows of every table, in the order of their keys, as text. */
export function rowsOf(db: Sqlite.Database): Record<string, string[]> {
  const tables = db.prepare<[], string>(`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`)
    .pluck().all()
  return Object.fromEntries(
    tables.map(name => [name, (db.prepare(`SELECT * FROM ${name}`).all() as Record<string, unknown>[]).map(asText)]),
  )
}

/** The same of a folder. */
export function everyRow(folder: string): Record<string, string[]> {
  const db = new Sqlite(join(folder, 'practice.db'), { readonly: true })
  try {
    return rowsOf(db)
  }
  finally {
    db.close()
  }
}
