import type { Migration } from './migration'

export const claimsOfCourses: Migration = {
  number: 42,
  name: 'emails of courses that may go are found without reading all that may go',
  sql: `
-- Each claim looks whether one would overtake an earlier email of its journey. A broadcast that waits has none, and may be large.
CREATE INDEX outbox_go_of_course ON outbox (go_at, id)
  WHERE enrolment_id IS NOT NULL AND status IN ('queued', 'failed') AND go_at IS NOT NULL;
`,
}
