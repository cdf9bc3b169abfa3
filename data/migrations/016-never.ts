import { slugOf } from '#core/message/headers'
import type { Database } from '../connection'
import type { Migration } from './migration'

/** Every list keeps one name for mail programs for good: the one it had until now, where no other list has the same. */
function mailNames(db: Database): void {
  const taken = new Set<string>()
  for (const { id, name } of db.prepare('SELECT id, public_name AS name FROM lists ORDER BY id').all() as { id: number, name: string }[]) {
    const slug = slugOf(name)
    const mailName = slug === 'untitled' || taken.has(slug) ? `list-${id}` : slug
    taken.add(mailName)
    db.prepare('UPDATE lists SET mail_name = ? WHERE id = ?').run(mailName, id)
  }
}

const OUTBOX = `id, kind, thing_id, person_id, step_id, visit, purpose, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, status, go_at, lease_owner, lease_until_at,
    tries, repeats, first_try_at, reason, message_ref, handed_over_at, sent_event_id, opened_at, clicked_at, left_at, last_opened_at, last_clicked_at`

/**
 * Journeys that stand still keep their own clock; what everybody is planned anew for is done in bits; leases expire, waves are told from
 * refusals, and the owner's mail goes like any other.
 */
export const never: Migration = {
  number: 16,
  name: 'never',
  rebuilds: true,
  then: mailNames,
  sql: `
-- Since when a journey stands still, for whatever reason, and when it last went on.
ALTER TABLE enrolments ADD COLUMN paused_at INTEGER;
ALTER TABLE enrolments ADD COLUMN resumed_at INTEGER;
UPDATE enrolments SET due_at = NULL, paused_at = min(
    coalesce(still_since, 9e15),
    coalesce((SELECT paused_at FROM people p WHERE p.id = person_id AND p.paused_until_at IS NOT NULL), 9e15),
    coalesce((SELECT coalesce((SELECT now_at FROM practice_clock), unixepoch() * 1000) FROM people p WHERE p.id = person_id AND p.status = 'resting'), 9e15))
  WHERE status = 'open' AND (still_since IS NOT NULL OR person_id IN (SELECT id FROM people WHERE paused_until_at IS NOT NULL OR status = 'resting'));

-- Tasks put down their people some at a time: whom they are for as it was said, null once all are down; and the last that was looked at.
ALTER TABLE tasks ADD COLUMN whom TEXT;
ALTER TABLE tasks ADD COLUMN cursor INTEGER NOT NULL DEFAULT 0;
-- Segments are filled some people at a time, up to this one.
ALTER TABLE segments ADD COLUMN filled_to INTEGER NOT NULL DEFAULT 0;
-- Deleted: the row goes once all that hangs on it is cleared away.
ALTER TABLE segments ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;
ALTER TABLE fields ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;
CREATE TABLE clearings (
  -- What people still have of something that is gone, cleared away some people at a time. The event by which it went stands in their histories, if at all.
  id INTEGER PRIMARY KEY, what TEXT NOT NULL CHECK (what IN ('tag', 'list', 'field', 'segment', 'entries-by-date')), thing_id INTEGER NOT NULL,
  event_id INTEGER REFERENCES events (id)
) STRICT;

-- The last of the replannings of everybody that this journey was planned by.
ALTER TABLE enrolments ADD COLUMN replan_id INTEGER NOT NULL DEFAULT 0;
CREATE TABLE replannings (
  -- A change after which everybody's unsent steps are planned anew, some at a time: how far that is, by enrolment and by entry, of how many; null once all is done.
  id INTEGER PRIMARY KEY, why TEXT NOT NULL CHECK (why IN ('zone', 'hours')), at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id),
  after_id INTEGER NOT NULL DEFAULT 0, entries_after_id INTEGER NOT NULL DEFAULT 0, done INTEGER NOT NULL DEFAULT 0, total INTEGER NOT NULL, ended_at INTEGER
) STRICT;
CREATE INDEX replannings_open ON replannings (id) WHERE ended_at IS NULL;

CREATE TABLE cascades (
  -- What one event brought about for one person without any time passing, in steps of whatever kind: bounded, and cut off where it never ends.
  root_id INTEGER NOT NULL REFERENCES events (id), person_id INTEGER NOT NULL REFERENCES people (id), steps INTEGER NOT NULL, cut INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (root_id, person_id)
) STRICT, WITHOUT ROWID;
-- The event whose cascade a journey belongs to, until time passes in it.
ALTER TABLE enrolments ADD COLUMN root_id INTEGER;

CREATE TABLE outbox_anew (
  -- One email to one person, or of the owner's own mail to a plain address, from the moment it is decided until it has left, or will not.
  -- The visit is that of a course, the confirmation that is asked for, or the event a file is promised by.
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL, thing_id INTEGER NOT NULL, person_id INTEGER REFERENCES people (id), to_address TEXT,
  step_id TEXT NOT NULL, visit INTEGER NOT NULL, purpose TEXT NOT NULL,
  message_id INTEGER REFERENCES messages (id), enrolment_id INTEGER REFERENCES enrolments (id),
  list_id INTEGER REFERENCES lists (id), asked_for INTEGER NOT NULL, cause_id INTEGER NOT NULL REFERENCES events (id),
  planned_at INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'queued'
    CHECK (status IN ('queued', 'leased', 'handing over', 'handed over', 'failed', 'may have arrived', 'held back', 'withdrawn')),
  go_at INTEGER, lease_owner TEXT, lease_until_at INTEGER,
  tries INTEGER NOT NULL DEFAULT 0, repeats INTEGER NOT NULL DEFAULT 0, first_try_at INTEGER,
  reason TEXT, message_ref TEXT, handed_over_at INTEGER, sent_event_id INTEGER REFERENCES events (id),
  opened_at INTEGER, clicked_at INTEGER, left_at INTEGER, last_opened_at INTEGER, last_clicked_at INTEGER,
  UNIQUE (kind, thing_id, person_id, step_id, visit, purpose),
  CHECK ((kind = 'course') = (enrolment_id IS NOT NULL)),
  CHECK ((kind = 'notice') = (person_id IS NULL)),
  CHECK ((person_id IS NULL) = (to_address IS NOT NULL)),
  CHECK ((person_id IS NULL) = (message_id IS NULL) AND (person_id IS NULL) = (list_id IS NULL))
) STRICT;
INSERT INTO outbox_anew (${OUTBOX}) SELECT ${OUTBOX} FROM outbox;
DROP TABLE outbox;
ALTER TABLE outbox_anew RENAME TO outbox;
CREATE INDEX outbox_go ON outbox (go_at, id) WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_go_asked ON outbox (go_at, id) WHERE asked_for = 1 AND status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_busy ON outbox (lease_until_at) WHERE status IN ('leased', 'handing over');
CREATE INDEX outbox_under_way ON outbox (enrolment_id, planned_at, id) WHERE enrolment_id IS NOT NULL AND (status IN ('queued', 'leased', 'handing over') OR (status = 'failed' AND go_at IS NOT NULL));
CREATE INDEX outbox_set_aside ON outbox (reason) WHERE status = 'queued' AND go_at IS NULL;
CREATE INDEX outbox_by_person ON outbox (person_id, handed_over_at);
CREATE INDEX outbox_by_thing ON outbox (kind, thing_id, step_id, status);
CREATE INDEX outbox_waiting_by_list ON outbox (list_id) WHERE status IN ('queued', 'leased', 'handing over', 'failed');
CREATE INDEX outbox_by_ref ON outbox (message_ref) WHERE message_ref IS NOT NULL;
CREATE INDEX outbox_left_house ON outbox (handed_over_at, kind, person_id, opened_at, clicked_at) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_trouble ON outbox (status, planned_at, go_at, repeats) WHERE status IN ('failed', 'held back', 'may have arrived') OR repeats > 0;
CREATE INDEX outbox_left ON outbox (kind, thing_id, step_id, person_id) WHERE left_at IS NOT NULL;
CREATE INDEX outbox_held_back ON outbox (kind, thing_id, step_id, person_id) WHERE status = 'held back';
CREATE INDEX outbox_sent ON outbox (kind, thing_id, step_id, handed_over_at, person_id) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_opened ON outbox (kind, thing_id, step_id, last_opened_at, opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked ON outbox (kind, thing_id, step_id, last_clicked_at, clicked_at, person_id) WHERE clicked_at IS NOT NULL;
CREATE INDEX outbox_opened_when ON outbox (last_opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked_when ON outbox (last_clicked_at, person_id) WHERE clicked_at IS NOT NULL;

-- The email by which notices go to the owner.
ALTER TABLE notices ADD COLUMN outbox_id INTEGER REFERENCES outbox (id);
CREATE INDEX notices_by_email ON notices (outbox_id) WHERE outbox_id IS NOT NULL;

CREATE TABLE mail_answers (
  -- A final answer of the mail server to one email: taken, or refused for good, and what that speaks of. Kept for some weeks.
  -- before: how the person stood before they were bounced by it, as JSON, so that a wave can be undone.
  id INTEGER PRIMARY KEY, at INTEGER NOT NULL, domain TEXT NOT NULL, outbox_id INTEGER NOT NULL REFERENCES outbox (id), person_id INTEGER REFERENCES people (id),
  about TEXT NOT NULL CHECK (about IN ('accepted', 'address', 'mailbox', 'policy', 'message', 'unclear')), said TEXT NOT NULL, before TEXT,
  undone INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX mail_answers_by_time ON mail_answers (at, id);
CREATE INDEX mail_answers_by_domain ON mail_answers (domain, id);
CREATE INDEX mail_answers_by_person ON mail_answers (person_id, at) WHERE about IN ('mailbox', 'unclear');

CREATE TABLE stopped_domains (
  -- A domain that refuses too many of our emails: what goes there waits until the owner has looked.
  domain TEXT PRIMARY KEY, reason TEXT NOT NULL, since_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- How live mail is handed over: connections at once, emails on each, emails a minute (null for any); what counts as a wave of refusals; what the server asked us to slow down to.
ALTER TABLE workspace ADD COLUMN smtp_connections INTEGER NOT NULL DEFAULT 5 CHECK (smtp_connections BETWEEN 1 AND 20);
ALTER TABLE workspace ADD COLUMN smtp_messages INTEGER NOT NULL DEFAULT 100 CHECK (smtp_messages BETWEEN 1 AND 10000);
ALTER TABLE workspace ADD COLUMN smtp_a_minute INTEGER;
ALTER TABLE workspace ADD COLUMN wave_rule TEXT;
ALTER TABLE workspace ADD COLUMN slowed_to INTEGER;
ALTER TABLE workspace ADD COLUMN slowed_at INTEGER;
ALTER TABLE workspace ADD COLUMN slowed_said TEXT;
-- Whether the mail server takes addresses with letters beyond ASCII before the @ (RFC 6531), as it said last; null before it was asked.
ALTER TABLE workspace ADD COLUMN smtp_takes_utf8 INTEGER;
-- The mail server cannot reach this address: since when it is known.
ALTER TABLE people ADD COLUMN unreachable_since INTEGER;

-- What the list is called in mail programs (RFC 2919): letters, digits and hyphens, the same for good whatever it is renamed to.
ALTER TABLE lists ADD COLUMN mail_name TEXT;
CREATE UNIQUE INDEX lists_by_mail_name ON lists (mail_name) WHERE mail_name IS NOT NULL;

CREATE TABLE troubles (
  -- Something that kept a process of ours from its work: a locked or damaged database, a full disk, a thread that was ended; until it was over.
  id INTEGER PRIMARY KEY, process TEXT NOT NULL, kind TEXT NOT NULL, said TEXT NOT NULL, at INTEGER NOT NULL, over_at INTEGER
) STRICT;
CREATE INDEX troubles_by_time ON troubles (at);
`,
}
