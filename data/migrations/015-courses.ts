import type { Migration } from '../migrate'

/** Sending hours; courses that hold, fork and do things. */
export const courses: Migration = {
  number: 15,
  name: 'courses',
  rebuilds: true,
  sql: `
-- A week of half-hours in which emails may leave, Monday first, as 336 letters 0 and 1; null for always.
ALTER TABLE workspace ADD COLUMN sending_hours TEXT;

-- Since when someone waits in the hold they stand at, and until when at most; how many steps were done at one instant so far.
ALTER TABLE enrolments ADD COLUMN held_since INTEGER;
ALTER TABLE enrolments ADD COLUMN limit_at INTEGER;
ALTER TABLE enrolments ADD COLUMN hops INTEGER NOT NULL DEFAULT 0;
CREATE INDEX enrolments_holding ON enrolments (person_id) WHERE held_since IS NOT NULL;

-- A course can tell the owner something, too.
CREATE TABLE new_notices (
  -- Something a rule or a course tells the owner: here, and where it says so by email, at once or gathered once a day.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), text TEXT NOT NULL, rule_id INTEGER REFERENCES rules (id),
  event_id INTEGER NOT NULL REFERENCES events (id), at INTEGER NOT NULL, seen_at INTEGER,
  email TEXT NOT NULL CHECK (email IN ('no', 'at-once', 'daily')), mail_due_at INTEGER, mailed_at INTEGER
) STRICT;
INSERT INTO new_notices (id, person_id, text, rule_id, event_id, at, seen_at, email, mail_due_at, mailed_at)
  SELECT id, person_id, text, rule_id, event_id, at, seen_at, email, mail_due_at, mailed_at FROM notices;
DROP TABLE notices;
ALTER TABLE new_notices RENAME TO notices;
CREATE INDEX notices_unseen ON notices (at) WHERE seen_at IS NULL;
CREATE INDEX notices_to_mail ON notices (mail_due_at, id) WHERE mail_due_at IS NOT NULL;
`,
}
