import type { Migration } from './migration'

export const choicesOfEmails: Migration = {
  number: 32,
  name: 'versions within an email, and what each reader got of them',
  sql: `
-- The places where readers of a wording differ, each with whom its cases are for.
ALTER TABLE messages ADD COLUMN choices TEXT NOT NULL DEFAULT '[]';

CREATE TABLE filled_emails (
  -- What stood in the places of an email that was handed over: facts by their name, and which case was chosen.
  outbox_id INTEGER PRIMARY KEY REFERENCES outbox (id),
  facts TEXT NOT NULL,
  chosen TEXT NOT NULL
) STRICT;
`,
}
