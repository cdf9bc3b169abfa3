import type { Migration } from './migration'

export const waitingMail: Migration = {
  number: 42,
  name: 'an email that leaves is moved in fewer indexes',
  sql: `
-- Each claim looks whether one would overtake an earlier email of its journey. A broadcast that waits has none, and may be large.
CREATE INDEX outbox_go_of_course ON outbox (go_at, id)
  WHERE enrolment_id IS NOT NULL AND status IN ('queued', 'failed') AND go_at IS NOT NULL;

-- An email is claimed, handed over and marked. These were written anew at each of the three; now once, or never.
DROP INDEX outbox_by_send;
CREATE INDEX outbox_by_send ON outbox (send_id, person_id);
CREATE INDEX outbox_waiting_by_send ON outbox (send_id, status, go_at) WHERE status IN ('queued', 'failed');
DROP INDEX outbox_waiting_by_list;
CREATE INDEX outbox_waiting_by_list ON outbox (list_id) WHERE status IN ('queued', 'failed');
DROP INDEX outbox_by_owner;
CREATE INDEX outbox_by_owner ON outbox (kind, owner_id, item_id);
`,
}
