import { withSends } from '#core/exchange/older'
import type { Database } from '../connection'
import type { Migration } from './migration'

/** Where conditions can stand, as JSON. */
const WITH_CONDITIONS = [
  ['pages', 'draft'], ['page_versions', 'content'], ['offers', 'draft'], ['offer_versions', 'content'], ['courses', 'draft'],
  ['course_versions', 'program'], ['course_versions', 'source'], ['segments', 'condition'], ['rules', 'rule'], ['messages', 'content'],
  ['tasks', 'spec'], ['tasks', 'whom'], ['rehearsals', 'story'], ['rehearsals', 'reader'],
] as const

/** Which email a condition asks about is said as every other send is. */
function nameSends(db: Database): void {
  for (const [table, column] of WITH_CONDITIONS) {
    const rows = db.prepare<[], { id: number, json: string }>(`SELECT id, ${column} AS json FROM ${table} WHERE instr(${column}, '"which":{') > 0`).all()
    const update = db.prepare(`UPDATE ${table} SET ${column} = ? WHERE id = ?`)
    for (const { id, json } of rows) {
      const now = JSON.stringify(withSends(JSON.parse(json) as unknown))
      if (now !== json) update.run(now, id)
    }
  }
}

/** Everything that stands in a row of the outbox besides what names it. */
const KEPT = `id, kind, person_id, to_address, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, status, go_at, lease_owner,
  lease_until_at, tries, repeats, first_try_at, reason, message_ref, handed_over_at, sent_event_id, opened_at, clicked_at, left_at,
  last_opened_at, last_clicked_at`

/** What is told of an opening has always been another kind of email than what asks for a place in the line. */
const KIND = `CASE WHEN kind = 'waiting' AND step_id = 'opening' THEN 'opening' ELSE kind END`
/** Owners' notices are one send; the notice they began with tells them apart. */
const OWNER = `CASE kind WHEN 'notice' THEN 0 ELSE thing_id END`
const OCCASION = `CASE kind WHEN 'notice' THEN thing_id ELSE visit END || CASE purpose WHEN 'first' THEN '' ELSE '-' || purpose END`

/** One table of what is sent, and one key of what one reader gets of it. */
export const sends: Migration = {
  number: 23,
  name: 'sends',
  rebuilds: true,
  sql: `
CREATE TABLE sends (
  -- What emails people, or their owner: of what kind, whose, and which of its emails.
  -- Most stand open, and emails of them come one by one, each with its own wording and list. What goes to an audience (JSON) at a time has one
  -- wording and one list, and becomes emails some at a time by a task.
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, owner_id INTEGER NOT NULL, item_id TEXT NOT NULL,
  message_id INTEGER REFERENCES messages (id), list_id INTEGER REFERENCES lists (id), audience TEXT, due_at INTEGER,
  state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'scheduled', 'sending', 'paused', 'stopped', 'sent')),
  task_id INTEGER REFERENCES tasks (id),
  UNIQUE (kind, owner_id, item_id),
  CHECK ((audience IS NULL) = (state = 'open'))
) STRICT;
CREATE INDEX sends_due ON sends (due_at, id) WHERE state = 'scheduled';
-- A task that its owner lets wait.
ALTER TABLE tasks ADD COLUMN is_paused INTEGER NOT NULL DEFAULT 0 CHECK (is_paused IN (0, 1));
INSERT INTO sends (kind, owner_id, item_id) SELECT DISTINCT ${KIND}, ${OWNER}, step_id FROM outbox ORDER BY 1, 2, 3;

CREATE TABLE new_outbox (
  -- One email to one person, or of the owner's own mail to a plain address, from the moment it is decided until it has left, or will not.
  -- Kind, owner and item are those of its send, which never change: what is asked most needs no join. The occasion is a number, with what
  -- kind of further sending for the same reason it is behind a hyphen (core/sending/occasion.ts).
  id INTEGER PRIMARY KEY, send_id INTEGER NOT NULL REFERENCES sends (id),
  kind TEXT NOT NULL, owner_id INTEGER NOT NULL, item_id TEXT NOT NULL,
  person_id INTEGER REFERENCES people (id), to_address TEXT, occasion TEXT NOT NULL,
  message_id INTEGER REFERENCES messages (id), enrolment_id INTEGER REFERENCES enrolments (id),
  list_id INTEGER REFERENCES lists (id), asked_for INTEGER NOT NULL, cause_id INTEGER NOT NULL REFERENCES events (id),
  planned_at INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'queued'
    CHECK (status IN ('queued', 'leased', 'handing over', 'handed over', 'failed', 'may have arrived', 'held back', 'withdrawn')),
  go_at INTEGER, lease_owner TEXT, lease_until_at INTEGER,
  tries INTEGER NOT NULL DEFAULT 0, repeats INTEGER NOT NULL DEFAULT 0, first_try_at INTEGER,
  reason TEXT, message_ref TEXT, handed_over_at INTEGER, sent_event_id INTEGER REFERENCES events (id),
  opened_at INTEGER, clicked_at INTEGER, left_at INTEGER, last_opened_at INTEGER, last_clicked_at INTEGER,
  CHECK ((person_id IS NULL) = (to_address IS NOT NULL)),
  CHECK ((person_id IS NULL) = (message_id IS NULL) AND (person_id IS NULL) = (list_id IS NULL))
) STRICT;
INSERT INTO new_outbox (${KEPT}, send_id, owner_id, item_id, occasion)
  SELECT ${KEPT.replace('kind', KIND)}, (SELECT s.id FROM sends s WHERE s.kind = ${KIND} AND s.owner_id = ${OWNER} AND s.item_id = step_id),
    ${OWNER}, step_id, ${OCCASION} FROM outbox;
DROP TABLE outbox;
ALTER TABLE new_outbox RENAME TO outbox;
CREATE UNIQUE INDEX outbox_once ON outbox (send_id, person_id, occasion) WHERE person_id IS NOT NULL;
CREATE UNIQUE INDEX outbox_once_to_address ON outbox (send_id, to_address, occasion) WHERE person_id IS NULL;
CREATE INDEX outbox_go ON outbox (go_at, id) WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_go_asked ON outbox (go_at, id) WHERE asked_for = 1 AND status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_busy ON outbox (lease_until_at) WHERE status IN ('leased', 'handing over');
CREATE INDEX outbox_under_way ON outbox (enrolment_id, planned_at, id)
  WHERE enrolment_id IS NOT NULL AND (status IN ('queued', 'leased', 'handing over') OR (status = 'failed' AND go_at IS NOT NULL));
CREATE INDEX outbox_set_aside ON outbox (reason) WHERE status = 'queued' AND go_at IS NULL;
CREATE INDEX outbox_by_person ON outbox (person_id, handed_over_at);
CREATE INDEX outbox_by_owner ON outbox (kind, owner_id, item_id, status);
CREATE INDEX outbox_waiting_by_list ON outbox (list_id) WHERE status IN ('queued', 'leased', 'handing over', 'failed');
CREATE INDEX outbox_by_ref ON outbox (message_ref) WHERE message_ref IS NOT NULL;
CREATE INDEX outbox_by_hand_over ON outbox (handed_over_at, kind, person_id, opened_at, clicked_at) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_trouble ON outbox (status, planned_at, go_at, repeats) WHERE status IN ('failed', 'held back', 'may have arrived') OR repeats > 0;
CREATE INDEX outbox_left ON outbox (kind, owner_id, item_id, person_id) WHERE left_at IS NOT NULL;
CREATE INDEX outbox_held_back ON outbox (kind, owner_id, item_id, person_id) WHERE status = 'held back';
CREATE INDEX outbox_sent ON outbox (kind, owner_id, item_id, handed_over_at, person_id) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_opened ON outbox (kind, owner_id, item_id, last_opened_at, opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked ON outbox (kind, owner_id, item_id, last_clicked_at, clicked_at, person_id) WHERE clicked_at IS NOT NULL;
CREATE INDEX outbox_opened_when ON outbox (last_opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked_when ON outbox (last_clicked_at, person_id) WHERE clicked_at IS NOT NULL;

ALTER TABLE messages RENAME COLUMN thing_id TO owner_id;
ALTER TABLE messages RENAME COLUMN step_id TO item_id;
UPDATE messages SET kind = 'opening' WHERE kind = 'waiting' AND item_id = 'opening';
`,
  then: nameSends,
}
