/** Copying what was made, and nobody's data, from one workspace file to another. */
import type { Database } from './connection'
import { q } from './connection'

/** Tables of definitions, in the order in which they refer to each other, and the columns that go along. */
const DEFINITIONS: [table: string, columns: string][] = [
  ['lists', 'id, name, public_name, description, takes_everybody, created_at'],
  ['tags', 'id, name, note, group_name, colour, expiry_days, expiry_on, created_at'],
]

export function copyDefinitions(from: Database, to: Database, at: number): void {
  for (const [table, columns] of DEFINITIONS) {
    const marks = columns.split(', ').map(column => `@${column}`).join(', ')
    const insert = q(to, `INSERT INTO ${table} (${columns}) VALUES (${marks})`)
    for (const row of q<Record<string, unknown>>(from, `SELECT ${columns} FROM ${table} ORDER BY id`).all()) insert.run({ ...row, created_at: at })
  }
  // Pages and courses come as drafts: what the public sees and what runs is decided anew.
  for (const row of q<Record<string, unknown>>(from, 'SELECT id, name, slug, draft FROM pages ORDER BY id').all()) {
    q(to, 'INSERT INTO pages (id, name, slug, draft, created_at, changed_at) VALUES (@id, @name, @slug, @draft, @at, @at)').run({ ...row, at })
  }
  for (const row of q<Record<string, unknown>>(from, 'SELECT id, name, again, draft FROM courses ORDER BY id').all()) {
    q(to, `INSERT INTO courses (id, name, status, again, draft, created_at, changed_at) VALUES (@id, @name, 'draft', @again, @draft, @at, @at)`).run({ ...row, at })
  }
}
