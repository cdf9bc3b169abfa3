import type { Migration } from '../migrate'

/** Journeys that stand still keep their own clock; what everybody is planned anew for is done in bits. */
export const never: Migration = {
  number: 16,
  name: 'never',
  sql: `
-- Since when a journey stands still, for whatever reason, and when it last went on.
ALTER TABLE enrolments ADD COLUMN paused_at INTEGER;
ALTER TABLE enrolments ADD COLUMN resumed_at INTEGER;
UPDATE enrolments SET due_at = NULL, paused_at = min(
    coalesce(still_since, 9e15),
    coalesce((SELECT paused_at FROM people p WHERE p.id = person_id AND p.paused_until_at IS NOT NULL), 9e15),
    coalesce((SELECT coalesce((SELECT now_at FROM practice_clock), unixepoch() * 1000) FROM people p WHERE p.id = person_id AND p.status = 'resting'), 9e15))
  WHERE status = 'open' AND (still_since IS NOT NULL OR person_id IN (SELECT id FROM people WHERE paused_until_at IS NOT NULL OR status = 'resting'));

-- The last of the replannings of everybody that this journey was planned by.
ALTER TABLE enrolments ADD COLUMN replan_id INTEGER NOT NULL DEFAULT 0;
CREATE TABLE replannings (
  -- A change after which everybody's unsent steps are planned anew, some at a time: how far that is, by enrolment and by entry, of how many; null once all is done.
  id INTEGER PRIMARY KEY, why TEXT NOT NULL CHECK (why IN ('zone', 'hours')), at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id),
  after_id INTEGER NOT NULL DEFAULT 0, entries_after_id INTEGER NOT NULL DEFAULT 0, done INTEGER NOT NULL DEFAULT 0, total INTEGER NOT NULL, ended_at INTEGER
) STRICT;
CREATE INDEX replannings_open ON replannings (id) WHERE ended_at IS NULL;

CREATE TABLE cascades (
  -- What one event brought about for one person without any time passing, in steps of whatever kind: bounded, and cut off where it never ends.
  root_id INTEGER NOT NULL REFERENCES events (id), person_id INTEGER NOT NULL REFERENCES people (id), steps INTEGER NOT NULL, cut INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (root_id, person_id)
) STRICT, WITHOUT ROWID;
-- The event whose cascade a journey belongs to, until time passes in it.
ALTER TABLE enrolments ADD COLUMN root_id INTEGER;
`,
}
