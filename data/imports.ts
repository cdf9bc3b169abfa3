/** Tables of people that came in, row by row. */
import type { Delimiter } from '#core/exchange/importing'
import type { Encoding } from '#core/exchange/encoding'
import type { Outcome } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface ImportRow {
  id: number
  fileName: string
  encoding: Encoding
  delimiter: Delimiter
  columns: string[]
  state: 'reading' | 'read' | 'begun'
  taskId: number | null
  madeAt: Instant
}

export function insertImport(db: Database, row: Pick<ImportRow, 'fileName' | 'encoding' | 'delimiter' | 'madeAt'>): number {
  return Number(prepare(
    db, `INSERT INTO imports (file_name, encoding, delimiter, columns, state, made_at) VALUES (?, ?, ?, '[]', 'reading', ?)`,
  )
    .run(row.fileName, row.encoding, row.delimiter, row.madeAt).lastInsertRowid)
}

export function findImport(db: Database, id: number): ImportRow | undefined {
  const row = prepare<Omit<ImportRow, 'columns'> & { columns: string }>(db, `
    SELECT id, file_name AS fileName, encoding, delimiter, columns, state, task_id AS taskId, made_at AS madeAt FROM imports
      WHERE id = ?`).get(id)
  return row && { ...row, columns: JSON.parse(row.columns) as string[] }
}

export function setImportRead(db: Database, id: number, columns: string[]): void {
  prepare(db, `UPDATE imports SET state = 'read', columns = ? WHERE id = ?`).run(JSON.stringify(columns), id)
}

export function setImportBegun(db: Database, id: number, taskId: number): void {
  prepare(db, `UPDATE imports SET state = 'begun', task_id = ? WHERE id = ?`).run(taskId, id)
}

export function deleteImport(db: Database, id: number): void {
  prepare(db, 'DELETE FROM import_rows WHERE import_id = ?').run(id)
  prepare(db, 'DELETE FROM imports WHERE id = ?').run(id)
}

/** Those that were read and never begun. */
export function importsNotBegun(db: Database): number[] {
  return prepare<{ id: number }>(db, `SELECT id FROM imports WHERE state <> 'begun' ORDER BY id`).all().map(row => row.id)
}

/** The first gets the number `from`. */
export function insertImportRows(db: Database, importId: number, from: number, rows: Pick<RawRow, 'rowNumber' | 'cells'>[]): void {
  const insert = prepare(db, 'INSERT INTO import_rows (import_id, n, row_number, cells) VALUES (?, ?, ?, ?)')
  rows.forEach(({ rowNumber, cells }, k) => insert.run(importId, from + k, rowNumber, JSON.stringify(cells)))
}

export function countImportRows(db: Database, importId: number): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM import_rows WHERE import_id = ?').get(importId)!.n
}

/** `n` counts the rows that are not blank from 1; `rowNumber` is what a spreadsheet shows beside it. */
export interface RawRow { n: number, rowNumber: number, cells: string[] }

/** The rows after `n`, in their order. */
export function importRowsAfter(db: Database, importId: number, n: number, limit: number): RawRow[] {
  return prepare<Omit<RawRow, 'cells'> & { cells: string }>(db, `
    SELECT n, row_number AS rowNumber, cells FROM import_rows WHERE import_id = ? AND n > ? AND cells IS NOT NULL ORDER BY n
    LIMIT ?`).all(importId, n, limit)
    .map(row => ({ ...row, cells: JSON.parse(row.cells) as string[] }))
}

/** What became of a row. What it said goes, except where it was refused, or came in without a part of it. */
export function setRowDone(db: Database, importId: number, n: number, { outcome, personId, leftOut }: {
  outcome: Outcome, personId: number, leftOut: { addressKey: string, problem: string } | null,
}): void {
  prepare(db, `
    UPDATE import_rows SET outcome = ?, person_id = ?, address_key = ?, problem = ?, cells = CASE WHEN ? THEN cells END
    WHERE import_id = ? AND n = ?`)
    .run(outcome, personId, leftOut?.addressKey ?? null, leftOut?.problem ?? null, leftOut ? 1 : 0, importId, n)
}

/** How many rows came in without a part of what they said. */
export function countLeftOut(db: Database, importId: number): number {
  return prepare<{ n: number }>(
    db, `SELECT count(*) AS n FROM import_rows WHERE import_id = ? AND problem IS NOT NULL AND outcome <> 'refused'`
  ).get(importId)!.n
}

export function setRowRefused(db: Database, importId: number, n: number, addressKey: string, problem: string): void {
  prepare(db, `UPDATE import_rows SET outcome = 'refused', address_key = ?, problem = ? WHERE import_id = ? AND n = ?`).run(
    addressKey, problem, importId, n,
  )
}

export function importOutcomes(db: Database, importId: number): { outcome: Outcome, people: number }[] {
  return prepare<{ outcome: Outcome, people: number }>(db, `
    SELECT outcome, count(*) AS people FROM import_rows WHERE import_id = ? AND outcome IS NOT NULL GROUP BY outcome
    ORDER BY people DESC`).all(importId)
}

/** Refused rows after `n`, and those that came in without a part; one whose person was erased since says nothing any more. */
export function rowsWithProblem(db: Database, importId: number, n: number, limit: number): (RawRow & {
  problem: string, outcome: Outcome,
})[] {
  return prepare<Omit<RawRow, 'cells'> & { cells: string, problem: string, outcome: Outcome }>(db, `
    SELECT n, row_number AS rowNumber, cells, problem, outcome FROM import_rows WHERE import_id = ? AND n > ? AND problem IS NOT NULL
      AND cells IS NOT NULL ORDER BY n LIMIT ?`).all(importId, n, limit)
    .map(row => ({ ...row, cells: JSON.parse(row.cells) as string[] }))
}
