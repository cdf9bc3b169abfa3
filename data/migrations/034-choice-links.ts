import type { Migration } from './migration'

export const choiceLinks: Migration = {
  number: 34,
  name: 'links of an email that are answers to one question',
  sql: `
-- Which question it answers and what is said then, as JSON; null for a link that leads somewhere.
ALTER TABLE message_links ADD COLUMN choice TEXT;
`,
}
