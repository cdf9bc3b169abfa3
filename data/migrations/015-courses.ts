import type { Migration } from '../migrate'

/** Sending hours. */
export const courses: Migration = {
  number: 15,
  name: 'courses',
  sql: `
-- A week of half-hours in which emails may leave, Monday first, as 336 letters 0 and 1; null for always.
ALTER TABLE workspace ADD COLUMN sending_hours TEXT;
`,
}
