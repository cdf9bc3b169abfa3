import type { Migration } from './migration'

export const stops: Migration = {
  number: 20,
  name: 'stops',
  sql: `
-- A course that its owner has stopped as a whole. What was said last, stop or go on, is carried through in bits: until then turned_at is set.
ALTER TABLE courses ADD COLUMN stopped_at INTEGER;
ALTER TABLE courses ADD COLUMN turned_at INTEGER;
ALTER TABLE courses ADD COLUMN turn_event_id INTEGER REFERENCES events (id);
-- Deleted: its row stays for the histories; nothing else finds it.
ALTER TABLE courses ADD COLUMN gone_at INTEGER;

-- Who would have come in meanwhile: they come in once it goes on.
ALTER TABLE comings_in ADD COLUMN waits INTEGER NOT NULL DEFAULT 0;
DROP INDEX comings_in_due;
CREATE INDEX comings_in_due ON comings_in (due_at, id) WHERE waits = 0;
-- More can be cleared away than before.
CREATE TABLE new_clearings (
  -- What people still have of something that is gone, cleared away some people at a time. The event by which it went stands in their histories, if at all.
  id INTEGER PRIMARY KEY, what TEXT NOT NULL, thing_id INTEGER NOT NULL, event_id INTEGER REFERENCES events (id)
) STRICT;
INSERT INTO new_clearings SELECT id, what, thing_id, event_id FROM clearings;
DROP TABLE clearings;
ALTER TABLE new_clearings RENAME TO clearings;

CREATE INDEX comings_in_waiting ON comings_in (course_id, id) WHERE waits = 1;
`,
}
