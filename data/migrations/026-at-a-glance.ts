import type { Migration } from './migration'

/** What every condition asks of a person stands together, person by person, instead of being gathered from all over the tables. */
export const atAGlance: Migration = {
  number: 26,
  name: 'tags, lists and fields of a person at a glance',
  sql: `
DROP INDEX tag_holdings_by_person;
CREATE INDEX tag_holdings_by_person ON tag_holdings (person_id, since_at);
DROP INDEX list_members_by_person;
CREATE INDEX list_members_by_person ON list_members (person_id, left_at);
DROP INDEX field_values_by_person;
CREATE INDEX field_values_by_person ON field_values (person_id, value);
`,
}
