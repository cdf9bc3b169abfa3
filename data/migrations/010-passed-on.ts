import type { Migration } from './migration'

/** Readers pass pages on. */
export const passedOn: Migration = {
  number: 10,
  name: 'passed-on',
  sql: `
-- The reader by whose address the visitor came.
ALTER TABLE opt_ins ADD COLUMN passed_by INTEGER REFERENCES people (id);
CREATE INDEX opt_ins_passed_on ON opt_ins (passed_by) WHERE passed_by IS NOT NULL;
`,
}
