import type { Migration } from './migration'

/** The numbers of Today and of a course, and somebody's courses, are read from indexes alone. */
export const quickNumbers: Migration = {
  number: 4,
  name: 'quick-numbers',
  sql: `
DROP INDEX outbox_left_house;
CREATE INDEX outbox_left_house ON outbox (handed_over_at, person_id, opened_at, clicked_at) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_trouble ON outbox (status, planned_at, go_at, repeats) WHERE status IN ('failed', 'held back') OR repeats > 0;
CREATE INDEX outbox_left ON outbox (kind, thing_id, step_id, person_id) WHERE left_at IS NOT NULL;
CREATE INDEX outbox_held_back ON outbox (kind, thing_id, step_id, person_id) WHERE status = 'held back';
DROP INDEX enrolments_by_person;
CREATE INDEX enrolments_by_person ON enrolments (person_id, course_id, status, step_id);
`,
}
