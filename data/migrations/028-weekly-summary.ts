import type { Migration } from './migration'

export const weeklySummary: Migration = {
  number: 28,
  name: 'the owner’s weekly summary',
  sql: `
CREATE TABLE weekly_summary (
  -- Whether and when the owner gets a summary of the week by email; one row. next_at: when the next one is written, null while it is off.
  id INTEGER PRIMARY KEY CHECK (id = 1), is_on INTEGER NOT NULL DEFAULT 0 CHECK (is_on IN (0, 1)),
  weekday INTEGER NOT NULL DEFAULT 1 CHECK (weekday BETWEEN 1 AND 7), time TEXT NOT NULL DEFAULT '08:00', next_at INTEGER
) STRICT;
INSERT INTO weekly_summary (id) VALUES (1);
`,
}
