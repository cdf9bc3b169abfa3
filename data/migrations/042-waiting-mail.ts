import type { Migration } from './migration'

export const waitingMail: Migration = {
  number: 42,
  name: 'sending an email changes fewer indexes',
  sql: `
-- Each claim checks whether an email would overtake an earlier one of its journey. Emails of a large broadcast need no such check.
CREATE INDEX outbox_go_of_course ON outbox (go_at, id)
  WHERE enrolment_id IS NOT NULL AND status IN ('queued', 'failed') AND go_at IS NOT NULL;

-- An email changes its status when it is claimed, handed over and marked. These indexes changed each time; now once, or never.
DROP INDEX outbox_by_send;
CREATE INDEX outbox_by_send ON outbox (send_id, person_id);
CREATE INDEX outbox_waiting_by_send ON outbox (send_id, status, go_at) WHERE status IN ('queued', 'failed');
DROP INDEX outbox_waiting_by_list;
CREATE INDEX outbox_waiting_by_list ON outbox (list_id) WHERE status IN ('queued', 'failed');
DROP INDEX outbox_by_owner;
CREATE INDEX outbox_by_owner ON outbox (kind, owner_id, item_id);
`,
}
