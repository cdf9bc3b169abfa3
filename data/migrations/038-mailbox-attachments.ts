import type { Migration } from './migration'

export const mailboxAttachments: Migration = {
  number: 38,
  name: 'what goes along with emails of practice, kept once',
  sql: `
-- Where in its source which file stands, as JSON; the bytes of the file are left out of it.
ALTER TABLE mailbox ADD COLUMN attached TEXT;
`,
}
