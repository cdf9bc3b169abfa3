import type { Migration } from './migration'

export const broadcasts: Migration = {
  number: 39,
  name: 'broadcasts',
  sql: `
CREATE TABLE broadcasts (
  -- One email to one audience, once, as it is written.
  -- draft is JSON. What was scheduled or sent of it stands in scheduled, with the send that does it; both are null while it is a draft.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, draft TEXT NOT NULL, scheduled TEXT, send_id INTEGER UNIQUE REFERENCES sends (id),
  made_at INTEGER NOT NULL, changed_at INTEGER NOT NULL, gone_at INTEGER,
  -- Since when anybody can read it on the public page.
  shared_at INTEGER,
  CHECK ((scheduled IS NULL) = (send_id IS NULL))
) STRICT;
-- Which broadcast an event about one as a whole is about.
ALTER TABLE events ADD COLUMN broadcast_id INTEGER REFERENCES broadcasts (id);
-- When each reader of a send to an audience gets it (JSON), as the send begins where that is null; and until when, by the computer's clock,
-- it can still be taken back before it may begin.
ALTER TABLE sends ADD COLUMN timing TEXT;
ALTER TABLE sends ADD COLUMN held_until_at INTEGER;
-- Of which send it is a second sending.
ALTER TABLE sends ADD COLUMN parent_id INTEGER REFERENCES sends (id);
CREATE TABLE second_sendings (
  -- A second sending of a broadcast, and which of its readers get it (spec, JSON).
  send_id INTEGER PRIMARY KEY REFERENCES sends (id), broadcast_id INTEGER NOT NULL REFERENCES broadcasts (id), spec TEXT NOT NULL
) STRICT;
CREATE INDEX second_sendings_by_broadcast ON second_sendings (broadcast_id);
DROP INDEX sends_due;
CREATE INDEX sends_due ON sends (due_at, id) WHERE state = 'scheduled' AND held_until_at IS NULL;
CREATE INDEX sends_held ON sends (held_until_at) WHERE held_until_at IS NOT NULL;
-- Since when its owner lets nothing leave; null while everything may.
ALTER TABLE workspace ADD COLUMN held_since_at INTEGER;
CREATE INDEX outbox_by_send ON outbox (send_id, status);
`,
}
