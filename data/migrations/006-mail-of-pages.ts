import type { Migration } from './migration'

/** Emails come of pages, too: to be confirmed, and with a promised file. What somebody opted in for waits for their yes. */
export const mailOfPages: Migration = {
  number: 6,
  name: 'mail-of-pages',
  rebuilds: true,
  sql: `
CREATE TABLE messages_anew (
  -- One wording of one email: its blocks, and the templates made from them once. The thing is what it comes of: a course, or a page.
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, thing_id INTEGER NOT NULL, step_id TEXT NOT NULL, digest TEXT NOT NULL,
  working_title TEXT NOT NULL, content TEXT NOT NULL, subject TEXT NOT NULL, html TEXT NOT NULL, text TEXT NOT NULL,
  created_at INTEGER NOT NULL, UNIQUE (kind, thing_id, step_id, digest)
) STRICT;
INSERT INTO messages_anew SELECT id, 'course', course_id, step_id, digest, working_title, content, subject, html, text, created_at FROM messages;
DROP TABLE messages;
ALTER TABLE messages_anew RENAME TO messages;

CREATE TABLE outbox_anew (
  -- One email to one person, from the moment it is decided until it has left, or will not.
  -- The visit is that of a course, the confirmation that is asked for, or the event a file is promised by.
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL, thing_id INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES people (id),
  step_id TEXT NOT NULL, visit INTEGER NOT NULL, purpose TEXT NOT NULL,
  message_id INTEGER NOT NULL REFERENCES messages (id), enrolment_id INTEGER REFERENCES enrolments (id),
  list_id INTEGER NOT NULL REFERENCES lists (id), asked_for INTEGER NOT NULL, cause_id INTEGER NOT NULL REFERENCES events (id),
  planned_at INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'queued'
    CHECK (status IN ('queued', 'leased', 'handing over', 'handed over', 'failed', 'held back', 'withdrawn')),
  go_at INTEGER, lease_owner TEXT, lease_until_at INTEGER,
  tries INTEGER NOT NULL DEFAULT 0, repeats INTEGER NOT NULL DEFAULT 0, first_try_at INTEGER,
  reason TEXT, message_ref TEXT, handed_over_at INTEGER, sent_event_id INTEGER REFERENCES events (id),
  opened_at INTEGER, clicked_at INTEGER, left_at INTEGER, last_opened_at INTEGER, last_clicked_at INTEGER,
  UNIQUE (kind, thing_id, person_id, step_id, visit, purpose),
  CHECK ((kind = 'course') = (enrolment_id IS NOT NULL))
) STRICT;
INSERT INTO outbox_anew (id, kind, thing_id, person_id, step_id, visit, purpose, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, status, go_at, lease_owner, lease_until_at,
    tries, repeats, first_try_at, reason, message_ref, handed_over_at, sent_event_id, opened_at, clicked_at, left_at, last_opened_at, last_clicked_at)
  SELECT id, kind, thing_id, person_id, step_id, visit, purpose, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, status, go_at, lease_owner, lease_until_at,
    tries, repeats, first_try_at, reason, message_ref, handed_over_at, sent_event_id, opened_at, clicked_at, left_at, last_opened_at, last_clicked_at FROM outbox;
DROP TABLE outbox;
ALTER TABLE outbox_anew RENAME TO outbox;
CREATE INDEX outbox_go ON outbox (go_at, id) WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_go_asked ON outbox (go_at, id) WHERE asked_for = 1 AND status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_busy ON outbox (lease_owner) WHERE status IN ('leased', 'handing over');
CREATE INDEX outbox_by_person ON outbox (person_id, handed_over_at);
CREATE INDEX outbox_by_thing ON outbox (kind, thing_id, step_id, status);
CREATE INDEX outbox_by_ref ON outbox (message_ref) WHERE message_ref IS NOT NULL;
CREATE INDEX outbox_left_house ON outbox (handed_over_at, kind, person_id, opened_at, clicked_at) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_trouble ON outbox (status, planned_at, go_at, repeats) WHERE status IN ('failed', 'held back') OR repeats > 0;
CREATE INDEX outbox_left ON outbox (kind, thing_id, step_id, person_id) WHERE left_at IS NOT NULL;
CREATE INDEX outbox_held_back ON outbox (kind, thing_id, step_id, person_id) WHERE status = 'held back';
CREATE INDEX outbox_sent ON outbox (kind, thing_id, step_id, handed_over_at, person_id) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_opened ON outbox (kind, thing_id, step_id, last_opened_at, opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked ON outbox (kind, thing_id, step_id, last_clicked_at, clicked_at, person_id) WHERE clicked_at IS NOT NULL;
CREATE INDEX outbox_opened_when ON outbox (last_opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked_when ON outbox (last_clicked_at, person_id) WHERE clicked_at IS NOT NULL;

CREATE TABLE reader_acts_anew (
  -- What an invented reader is going to do with an email.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), due_at INTEGER NOT NULL, kind TEXT NOT NULL, link_n INTEGER,
  agent TEXT NOT NULL, done_at INTEGER
) STRICT;
INSERT INTO reader_acts_anew SELECT id, outbox_id, due_at, kind, link_n, agent, done_at FROM reader_acts;
DROP TABLE reader_acts;
ALTER TABLE reader_acts_anew RENAME TO reader_acts;
CREATE INDEX reader_acts_due ON reader_acts (due_at, id) WHERE done_at IS NULL;

CREATE TABLE files (
  -- A file that pages promise: a freebie.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, type TEXT NOT NULL, bytes INTEGER NOT NULL, content BLOB NOT NULL, created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE file_fetches (
  -- One fetch of a promised file by the address in an email, and what it was judged to be.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), file_id INTEGER NOT NULL REFERENCES files (id), at INTEGER NOT NULL,
  judged TEXT NOT NULL CHECK (judged IN ('reader', 'prefetch', 'scanner')), event_id INTEGER NOT NULL REFERENCES events (id)
) STRICT;
CREATE INDEX file_fetches_by_email ON file_fetches (outbox_id);

-- The emails of a published version, by what each is for.
ALTER TABLE page_versions ADD COLUMN messages TEXT NOT NULL DEFAULT '{}';

CREATE TABLE confirmations (
  -- Someone opted in and is asked to say yes by email. What they typed is kept until they do; nothing is given before.
  id INTEGER PRIMARY KEY, page_id INTEGER NOT NULL REFERENCES pages (id), page_version_id INTEGER NOT NULL REFERENCES page_versions (id),
  person_id INTEGER NOT NULL REFERENCES people (id), event_id INTEGER NOT NULL REFERENCES events (id), answers TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('waiting', 'confirmed', 'expired', 'withdrawn')),
  asked_at INTEGER NOT NULL, mailed_at INTEGER, mails INTEGER NOT NULL DEFAULT 0, remind_at INTEGER, expires_at INTEGER NOT NULL, next_at INTEGER, ended_at INTEGER,
  CHECK ((state = 'waiting') = (next_at IS NOT NULL))
) STRICT;
CREATE UNIQUE INDEX confirmations_waiting ON confirmations (page_id, person_id) WHERE state = 'waiting';
CREATE INDEX confirmations_due ON confirmations (next_at, id) WHERE next_at IS NOT NULL;
CREATE INDEX confirmations_by_person ON confirmations (person_id);

-- When the opt-in counted: at once, or with their yes. And when the promised file was first fetched.
ALTER TABLE opt_ins ADD COLUMN confirmed_at INTEGER;
ALTER TABLE opt_ins ADD COLUMN fetched_at INTEGER;
UPDATE opt_ins SET confirmed_at = at;
ALTER TABLE consents ADD COLUMN confirmed_at INTEGER;
`,
}
