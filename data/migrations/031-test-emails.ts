import type { Migration } from './migration'

export const testEmails: Migration = {
  number: 31,
  name: 'tests of emails, sent to addresses of the owner’s',
  sql: `
CREATE TABLE test_emails (
  -- What a test says; it is written once, whatever becomes of the email meanwhile.
  id INTEGER PRIMARY KEY, subject TEXT NOT NULL, html TEXT NOT NULL, text TEXT NOT NULL, at INTEGER NOT NULL
) STRICT;
`,
}
