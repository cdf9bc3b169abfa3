import type { Migration } from './migration'

export const earlierEmails: Migration = {
  number: 35,
  name: 'emails as they were written earlier',
  sql: `
CREATE TABLE earlier_emails (
  -- An email as it stood until that time, by the clock of the computer.
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, owner_id INTEGER NOT NULL, item_id TEXT NOT NULL, stood_until_at INTEGER NOT NULL,
  content TEXT NOT NULL
) STRICT;
CREATE INDEX earlier_emails_of ON earlier_emails (kind, owner_id, item_id, stood_until_at);
`,
}
