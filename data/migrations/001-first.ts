import type { Migration } from './migration'

/** What everything rests on. Columns ending in `_at` are milliseconds since 1970 UTC. */
export const first: Migration = {
  number: 1,
  name: 'first',
  sql: `
CREATE TABLE migrations (
  -- One applied change of this schema.
  number INTEGER PRIMARY KEY, name TEXT NOT NULL, digest TEXT NOT NULL, applied_at INTEGER NOT NULL
) STRICT;

CREATE TABLE workspace (
  -- The one workspace of this file, and who its mail is from.
  id INTEGER PRIMARY KEY CHECK (id = 1),
  mode TEXT NOT NULL CHECK (mode IN ('practice', 'live')),
  key TEXT NOT NULL,
  name TEXT NOT NULL, zone TEXT NOT NULL,
  sender_name TEXT NOT NULL DEFAULT '', sender_address TEXT NOT NULL DEFAULT '', postal_address TEXT NOT NULL DEFAULT '',
  smtp_url TEXT,
  carrier_state TEXT NOT NULL DEFAULT 'ready' CHECK (carrier_state IN ('ready', 'stopped')),
  carrier_reason TEXT, carrier_since_at INTEGER,
  carrier_pause_until_at INTEGER,
  created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE practice_clock (
  -- Where the practice clock stands, and where it has been asked to go. Only in practice.
  id INTEGER PRIMARY KEY CHECK (id = 1), now_at INTEGER NOT NULL, target_at INTEGER NOT NULL CHECK (target_at >= now_at)
) STRICT;

CREATE TABLE heartbeats (
  -- When a process of this installation was last seen, by the system clock.
  process TEXT PRIMARY KEY, seen_at INTEGER NOT NULL, version TEXT NOT NULL, started_at INTEGER NOT NULL
) STRICT;

CREATE TABLE events (
  -- One thing that happened: the history. Never changed, never removed; nothing personal stands in it.
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL,
  at INTEGER NOT NULL,
  person_id INTEGER REFERENCES people (id),
  cause_id INTEGER REFERENCES events (id),
  page_id INTEGER, list_id INTEGER, tag_id INTEGER, course_id INTEGER, outbox_id INTEGER,
  step_id TEXT, link_n INTEGER,
  detail TEXT
) STRICT;
CREATE INDEX events_by_person ON events (person_id, id);
CREATE INDEX events_by_kind ON events (kind, at);
CREATE TRIGGER events_stay BEFORE UPDATE ON events BEGIN SELECT raise(ABORT, 'events are never changed'); END;
CREATE TRIGGER events_remain BEFORE DELETE ON events BEGIN SELECT raise(ABORT, 'events are never removed'); END;

CREATE TABLE event_personal (
  -- What is personal in an event, apart from it so that it can be erased.
  event_id INTEGER PRIMARY KEY REFERENCES events (id), facts TEXT NOT NULL
) STRICT;

CREATE TABLE people (
  -- One subscriber: one person, one email address.
  id INTEGER PRIMARY KEY,
  address TEXT NOT NULL,
  address_key TEXT NOT NULL UNIQUE,
  first_name TEXT NOT NULL DEFAULT '',
  status TEXT NOT NULL CHECK (status IN ('pending', 'active', 'resting', 'unsubscribed', 'bounced', 'complained')),
  zone TEXT,
  source TEXT NOT NULL,
  created_at INTEGER NOT NULL
) STRICT;
CREATE INDEX people_by_arrival ON people (created_at, id);
CREATE INDEX people_by_status ON people (status, created_at);

CREATE TABLE lists (
  -- A promise of a kind of mail.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, public_name TEXT NOT NULL, description TEXT NOT NULL DEFAULT '',
  takes_everybody INTEGER NOT NULL DEFAULT 0, created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE list_members (
  -- Someone who joined a list; left_at is set while they have left it.
  list_id INTEGER NOT NULL REFERENCES lists (id), person_id INTEGER NOT NULL REFERENCES people (id),
  joined_at INTEGER NOT NULL, left_at INTEGER, event_id INTEGER NOT NULL REFERENCES events (id),
  PRIMARY KEY (list_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX list_members_by_person ON list_members (person_id);

CREATE TABLE tags (
  -- A private note about people.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, note TEXT NOT NULL DEFAULT '', created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE tag_holdings (
  -- A tag someone has.
  tag_id INTEGER NOT NULL REFERENCES tags (id), person_id INTEGER NOT NULL REFERENCES people (id),
  since_at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id),
  PRIMARY KEY (tag_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX tag_holdings_by_person ON tag_holdings (person_id);

CREATE TABLE pages (
  -- An opt-in page: its draft, and which version the public sees.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, slug TEXT NOT NULL UNIQUE, draft TEXT NOT NULL,
  version_id INTEGER REFERENCES page_versions (id), created_at INTEGER NOT NULL, changed_at INTEGER NOT NULL
) STRICT;

CREATE TABLE page_versions (
  -- A page as it was published; consent refers to it.
  id INTEGER PRIMARY KEY, page_id INTEGER NOT NULL REFERENCES pages (id), number INTEGER NOT NULL,
  content TEXT NOT NULL, published_at INTEGER NOT NULL, UNIQUE (page_id, number)
) STRICT;

CREATE TABLE consents (
  -- Consent as it was given: the wording, where, when and from where.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), event_id INTEGER NOT NULL REFERENCES events (id),
  page_version_id INTEGER NOT NULL REFERENCES page_versions (id), wording TEXT NOT NULL,
  at INTEGER NOT NULL, ip TEXT, zone TEXT
) STRICT;
CREATE INDEX consents_by_person ON consents (person_id);

CREATE TABLE courses (
  -- An email course: its draft, and which version runs.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, list_id INTEGER REFERENCES lists (id),
  status TEXT NOT NULL CHECK (status IN ('draft', 'running')),
  again TEXT NOT NULL CHECK (again IN ('once', 'after-ending')),
  draft TEXT NOT NULL, version_id INTEGER REFERENCES course_versions (id),
  created_at INTEGER NOT NULL, changed_at INTEGER NOT NULL, started_at INTEGER
) STRICT;

CREATE TABLE course_ways_in (
  -- Something that starts a course.
  course_id INTEGER NOT NULL REFERENCES courses (id), tag_id INTEGER NOT NULL REFERENCES tags (id),
  PRIMARY KEY (course_id, tag_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX course_ways_in_by_tag ON course_ways_in (tag_id);

CREATE TABLE course_versions (
  -- A course as it was published: the program that runs, and the draft it was made from.
  id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES courses (id), number INTEGER NOT NULL,
  program TEXT NOT NULL, source TEXT NOT NULL, published_at INTEGER NOT NULL, UNIQUE (course_id, number)
) STRICT;

CREATE TABLE messages (
  -- One wording of one email: its blocks, and the templates made from them once.
  id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES courses (id), step_id TEXT NOT NULL, digest TEXT NOT NULL,
  working_title TEXT NOT NULL, content TEXT NOT NULL, subject TEXT NOT NULL, html TEXT NOT NULL, text TEXT NOT NULL,
  created_at INTEGER NOT NULL, UNIQUE (course_id, step_id, digest)
) STRICT;

CREATE TABLE message_links (
  -- A tracked link of an email, and the tag that following it gives.
  message_id INTEGER NOT NULL REFERENCES messages (id), n INTEGER NOT NULL, url TEXT NOT NULL, label TEXT NOT NULL,
  tag_id INTEGER REFERENCES tags (id), PRIMARY KEY (message_id, n)
) STRICT, WITHOUT ROWID;

CREATE TABLE enrolments (
  -- One person's journey through one course.
  id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES courses (id), person_id INTEGER NOT NULL REFERENCES people (id),
  visit INTEGER NOT NULL, version_id INTEGER NOT NULL REFERENCES course_versions (id),
  status TEXT NOT NULL CHECK (status IN ('open', 'finished', 'left')),
  joined_at INTEGER NOT NULL, previous_at INTEGER NOT NULL, step_id TEXT, due_at INTEGER, done_steps TEXT NOT NULL,
  own_act INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id), ended_at INTEGER,
  UNIQUE (course_id, person_id, visit),
  CHECK (status = 'open' OR (step_id IS NULL AND due_at IS NULL))
) STRICT;
CREATE UNIQUE INDEX enrolments_open ON enrolments (course_id, person_id) WHERE status = 'open';
CREATE INDEX enrolments_due ON enrolments (due_at, id) WHERE due_at IS NOT NULL;
CREATE INDEX enrolments_by_person ON enrolments (person_id);

CREATE TABLE watches (
  -- Something looked at beside an enrolment at a time of its own: no click on an email after so long.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL UNIQUE REFERENCES outbox (id),
  tag_id INTEGER NOT NULL REFERENCES tags (id), due_at INTEGER NOT NULL, done_at INTEGER
) STRICT;
CREATE INDEX watches_due ON watches (due_at, id) WHERE done_at IS NULL;

CREATE TABLE outbox (
  -- One email to one person, from the moment it is decided until it has left, or will not.
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL CHECK (kind IN ('course')), thing_id INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES people (id),
  step_id TEXT NOT NULL, visit INTEGER NOT NULL, purpose TEXT NOT NULL CHECK (purpose IN ('first', 'repeat')),
  message_id INTEGER NOT NULL REFERENCES messages (id), enrolment_id INTEGER NOT NULL REFERENCES enrolments (id),
  list_id INTEGER NOT NULL REFERENCES lists (id), asked_for INTEGER NOT NULL, cause_id INTEGER NOT NULL REFERENCES events (id),
  planned_at INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'queued'
    CHECK (status IN ('queued', 'leased', 'handing over', 'handed over', 'failed', 'held back', 'withdrawn')),
  go_at INTEGER, lease_owner TEXT, lease_until_at INTEGER,
  tries INTEGER NOT NULL DEFAULT 0, repeats INTEGER NOT NULL DEFAULT 0, first_try_at INTEGER,
  reason TEXT, message_ref TEXT, handed_over_at INTEGER, sent_event_id INTEGER REFERENCES events (id),
  opened_at INTEGER, clicked_at INTEGER, left_at INTEGER,
  UNIQUE (kind, thing_id, person_id, step_id, visit, purpose)
) STRICT;
CREATE INDEX outbox_go ON outbox (go_at, id) WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_go_asked ON outbox (go_at, id) WHERE asked_for = 1 AND status IN ('queued', 'failed') AND go_at IS NOT NULL;
CREATE INDEX outbox_busy ON outbox (lease_owner) WHERE status IN ('leased', 'handing over');
CREATE INDEX outbox_by_person ON outbox (person_id);
CREATE INDEX outbox_by_thing ON outbox (kind, thing_id, step_id, status);
CREATE INDEX outbox_by_ref ON outbox (message_ref) WHERE message_ref IS NOT NULL;
CREATE INDEX outbox_left_house ON outbox (handed_over_at) WHERE handed_over_at IS NOT NULL;

CREATE TABLE opens (
  -- One fetch of an email's picture, and what it was judged to be.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), at INTEGER NOT NULL,
  judged TEXT NOT NULL CHECK (judged IN ('reader', 'prefetch', 'scanner')), event_id INTEGER NOT NULL REFERENCES events (id)
) STRICT;
CREATE INDEX opens_by_email ON opens (outbox_id);

CREATE TABLE clicks (
  -- One following of a tracked link. Consequences come when it is settled, dated at the click.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), link_n INTEGER NOT NULL, at INTEGER NOT NULL,
  suspect INTEGER NOT NULL, settle_at INTEGER NOT NULL,
  judged TEXT CHECK (judged IN ('reader', 'scanner')), event_id INTEGER REFERENCES events (id)
) STRICT;
CREATE INDEX clicks_by_email ON clicks (outbox_id);
CREATE INDEX clicks_to_settle ON clicks (settle_at, id) WHERE judged IS NULL;

CREATE TABLE mailbox (
  -- The practice mailbox: what the stand-in carrier delivered. The key makes a second delivery of one email impossible.
  id INTEGER PRIMARY KEY, message_ref TEXT NOT NULL UNIQUE, to_address TEXT NOT NULL, to_name TEXT NOT NULL, subject TEXT NOT NULL,
  source BLOB NOT NULL, at INTEGER NOT NULL, deliveries INTEGER NOT NULL DEFAULT 1
) STRICT;
CREATE INDEX mailbox_by_time ON mailbox (at, id);

CREATE TABLE invented_readers (
  -- Someone invented, for whom the stand-in readers read. Only in practice.
  person_id INTEGER PRIMARY KEY REFERENCES people (id), keenness_pct INTEGER NOT NULL CHECK (keenness_pct BETWEEN 0 AND 100)
) STRICT;

CREATE TABLE reader_acts (
  -- What an invented reader is going to do with an email.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), due_at INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('open', 'click', 'leave')), link_n INTEGER,
  agent TEXT NOT NULL, done_at INTEGER
) STRICT;
CREATE INDEX reader_acts_due ON reader_acts (due_at, id) WHERE done_at IS NULL;
`,
}
