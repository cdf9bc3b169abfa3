import type { Migration } from './migration'

/** Readers choose for themselves: lists and interests on and off, a pause, another address; and they can take back what they did. */
export const choices: Migration = {
  number: 8,
  name: 'choices',
  sql: `
-- What readers see a tag as, where they may take it and put it away themselves; null for a private note.
ALTER TABLE tags ADD COLUMN public_name TEXT CHECK (public_name <> '');
-- Whether readers are offered the list who never joined it.
ALTER TABLE lists ADD COLUMN offered INTEGER NOT NULL DEFAULT 0 CHECK (offered IN (0, 1));
ALTER TABLE people ADD COLUMN paused_at INTEGER;
ALTER TABLE people ADD COLUMN paused_until_at INTEGER;
CREATE INDEX people_pausing ON people (paused_until_at) WHERE paused_until_at IS NOT NULL;
-- How long this journey has stood still in all: its dates are later by that much.
ALTER TABLE enrolments ADD COLUMN still_ms INTEGER NOT NULL DEFAULT 0;
CREATE TABLE undos (
  -- How somebody stood just before they changed something on their choices page, for as long as that can be taken back.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), outbox_id INTEGER NOT NULL REFERENCES outbox (id),
  before TEXT NOT NULL, at INTEGER NOT NULL, done_at INTEGER
) STRICT;
CREATE INDEX undos_by_person ON undos (person_id);
CREATE TABLE address_changes (
  -- Somebody wants their mail at another address, and is asked there whether it is theirs.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), address TEXT NOT NULL, address_key TEXT NOT NULL,
  asked_at INTEGER NOT NULL, expires_at INTEGER NOT NULL, done_at INTEGER
) STRICT;
CREATE INDEX address_changes_by_person ON address_changes (person_id);
CREATE TABLE leaving_answers (
  -- What somebody answered when asked, after leaving, why. Only counted; an email can be answered about once.
  outbox_id INTEGER PRIMARY KEY REFERENCES outbox (id), answer TEXT NOT NULL, at INTEGER NOT NULL
) STRICT;
`,
}
