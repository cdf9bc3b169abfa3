import type { Migration } from './migration'

/** How far the owner has come on the first evening, as far as no table of a thing says it. */
export const setUp: Migration = {
  number: 27,
  name: 'what was rehearsed, and whether the list of first steps is put away',
  sql: `
ALTER TABLE workspace ADD COLUMN rehearsed_at INTEGER;
ALTER TABLE workspace ADD COLUMN setup_hidden_at INTEGER;
`,
}
