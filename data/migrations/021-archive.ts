import type { Migration } from './migration'

export const archive: Migration = {
  number: 21,
  name: 'archive',
  sql: `
CREATE TABLE archived (
  -- What its owner has put away: it stays as it is, and stands in no list of things to work with.
  kind TEXT NOT NULL, thing_id INTEGER NOT NULL, at INTEGER NOT NULL, PRIMARY KEY (kind, thing_id)
) STRICT, WITHOUT ROWID;
`,
}
