import type { Migration } from './migration'

export const emailDrafts: Migration = {
  number: 37,
  name: 'emails that stand nowhere yet',
  sql: `
CREATE TABLE email_drafts (
  -- An email that is written and stands nowhere yet.
  id INTEGER PRIMARY KEY, content TEXT NOT NULL, made_at INTEGER NOT NULL, changed_at INTEGER NOT NULL
) STRICT;
`,
}
