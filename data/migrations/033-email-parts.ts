import type { Migration } from './migration'

export const emailParts: Migration = {
  number: 33,
  name: 'parts of emails, templates of one’s own, and how the emails of the workspace look',
  sql: `
CREATE TABLE email_parts (
  -- Written once, standing in several emails. One that is gone keeps its name for the history.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, body TEXT NOT NULL, made_at INTEGER NOT NULL, changed_at INTEGER NOT NULL,
  gone_at INTEGER
) STRICT;

CREATE TABLE email_templates (
  -- An email kept to begin others with.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, content TEXT NOT NULL, made_at INTEGER NOT NULL
) STRICT;

-- Null for the one that it has from the beginning.
ALTER TABLE workspace ADD COLUMN email_look TEXT;

-- What a wording was made with besides its words: the look and its parts as they were. Empty for neither.
ALTER TABLE messages ADD COLUMN made_with TEXT NOT NULL DEFAULT '';
`,
}
