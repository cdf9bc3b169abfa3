import type { Migration } from './migration'

export const journeyUndos: Migration = {
  number: 29,
  name: 'a move or an end of a journey by the owner’s hand can be undone',
  sql: `
CREATE TABLE journey_undos (
  -- The last thing the owner did by hand to a journey. before, after: where it stood, as JSON; after is null where the journey was ended.
  enrolment_id INTEGER PRIMARY KEY REFERENCES enrolments (id) ON DELETE CASCADE,
  before TEXT NOT NULL, after TEXT,
  -- The emails that were waiting then, as a JSON list of outbox ids.
  emails TEXT NOT NULL, at INTEGER NOT NULL
) STRICT;
`,
}
