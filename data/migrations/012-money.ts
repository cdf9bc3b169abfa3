import type { Migration } from './migration'

/** What was spent on sources, and the currency amounts are typed in. */
export const money: Migration = {
  number: 12,
  name: 'money',
  sql: `
ALTER TABLE workspace ADD COLUMN currency TEXT NOT NULL DEFAULT 'EUR';
CREATE TABLE source_costs (
  -- Spent on a source in a month of the workspace's zone, in minor units. Each keeps the currency it was typed in.
  kind TEXT NOT NULL CHECK (kind IN ('named', 'utm', 'site')), word TEXT NOT NULL CHECK (word <> ''), month TEXT NOT NULL, amount INTEGER NOT NULL CHECK (amount > 0),
  currency TEXT NOT NULL, changed_at INTEGER NOT NULL, PRIMARY KEY (kind, word, month)
) STRICT, WITHOUT ROWID;
`,
}
