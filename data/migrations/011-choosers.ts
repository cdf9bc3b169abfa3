import type { Migration } from './migration'

/** Answers of a form pick the page that people come to. */
export const choosers: Migration = {
  number: 11,
  name: 'choosers',
  sql: `
-- The id of the result page within its page; null where none was picked.
ALTER TABLE opt_ins ADD COLUMN result_id TEXT;
`,
}
