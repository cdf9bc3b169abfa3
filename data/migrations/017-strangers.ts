import type { Migration } from '../migrate'

export const strangers: Migration = {
  number: 17,
  name: 'strangers',
  sql: `
CREATE TABLE sessions (
  -- A browser that is signed in to this installation; only in practice, which is always there. The digest is of what its cookie holds, the credential that of the password it came in with.
  digest TEXT PRIMARY KEY, credential TEXT NOT NULL, made_at INTEGER NOT NULL, seen_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
`,
}
