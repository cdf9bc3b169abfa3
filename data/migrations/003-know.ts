import type { Migration } from './migration'

/** People have a country, fields and consent from anywhere; segments are saved; what is often asked has a column of its own. */
export const know: Migration = {
  number: 3,
  name: 'know',
  sql: `
ALTER TABLE people ADD COLUMN country TEXT CHECK (country GLOB '[A-Z][A-Z]');
-- Small letters of address and name, to find by any part.
ALTER TABLE people ADD COLUMN search_text TEXT NOT NULL DEFAULT '';
UPDATE people SET search_text = address_key || ' ' || fold(first_name);
-- When consent was last recorded; the last reader open or click of any email; the last uncertain open.
ALTER TABLE people ADD COLUMN consent_at INTEGER;
ALTER TABLE people ADD COLUMN read_at INTEGER;
ALTER TABLE people ADD COLUMN fetched_at INTEGER;
UPDATE people SET consent_at = (SELECT max(c.at) FROM consents c WHERE c.person_id = people.id),
  read_at = (SELECT max(r.at) FROM outbox o JOIN (SELECT outbox_id, at FROM opens WHERE judged = 'reader' UNION ALL SELECT outbox_id, at FROM clicks WHERE judged = 'reader') r ON r.outbox_id = o.id WHERE o.person_id = people.id),
  fetched_at = (SELECT max(r.at) FROM outbox o JOIN opens r ON r.outbox_id = o.id WHERE o.person_id = people.id AND r.judged <> 'reader');
-- Erased people and people merged into another are kept for the counts, and are nobody's any more.
ALTER TABLE people ADD COLUMN gone TEXT CHECK (gone IN ('erased', 'merged'));
ALTER TABLE people ADD COLUMN merged_into INTEGER REFERENCES people (id);
-- What conditions ask of the people themselves is answered without reading their rows.
DROP INDEX people_by_status;
CREATE INDEX people_by_status ON people (status, created_at, country, consent_at, read_at, fetched_at, source, zone) WHERE gone IS NULL;
CREATE INDEX people_by_merging ON people (merged_into) WHERE merged_into IS NOT NULL;

ALTER TABLE events ADD COLUMN field_id INTEGER;
ALTER TABLE events ADD COLUMN segment_id INTEGER;
ALTER TABLE events ADD COLUMN task_id INTEGER;
CREATE INDEX events_by_segment ON events (segment_id, at) WHERE segment_id IS NOT NULL;
-- The other person, where two are merged.
ALTER TABLE events ADD COLUMN other_id INTEGER;

CREATE TABLE opt_ins (
  -- Someone pressed the button of a page.
  page_id INTEGER NOT NULL REFERENCES pages (id), person_id INTEGER NOT NULL REFERENCES people (id),
  at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id), PRIMARY KEY (page_id, person_id, event_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX opt_ins_by_person ON opt_ins (person_id);
INSERT INTO opt_ins (page_id, person_id, at, event_id) SELECT page_id, person_id, at, id FROM events WHERE kind = 'opted-in';

CREATE TABLE consents_anew (
  -- Consent as it was given: the wording, where, when and from where. On a page of ours, or by an origin told in words.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), event_id INTEGER NOT NULL REFERENCES events (id),
  page_version_id INTEGER REFERENCES page_versions (id), origin TEXT NOT NULL DEFAULT '', wording TEXT NOT NULL,
  at INTEGER NOT NULL, ip TEXT, zone TEXT, CHECK (page_version_id IS NOT NULL OR origin <> '')
) STRICT;
INSERT INTO consents_anew (id, person_id, event_id, page_version_id, wording, at, ip, zone) SELECT id, person_id, event_id, page_version_id, wording, at, ip, zone FROM consents;
DROP TABLE consents;
ALTER TABLE consents_anew RENAME TO consents;
CREATE INDEX consents_by_person ON consents (person_id);

CREATE TABLE fields (
  -- A typed fact about people.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, label TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('text', 'number', 'yes-no', 'date', 'choice', 'country', 'zone')),
  choices TEXT NOT NULL DEFAULT '[]', created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE field_values (
  -- What is known of someone for a field: a number for number and yes/no, else a text.
  field_id INTEGER NOT NULL REFERENCES fields (id), person_id INTEGER NOT NULL REFERENCES people (id), value ANY NOT NULL,
  PRIMARY KEY (field_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX field_values_by_value ON field_values (field_id, value);
CREATE INDEX field_values_by_person ON field_values (person_id);

-- Where consent must be on record, as a JSON list of country codes, and whether an unknown country counts as one of them.
ALTER TABLE workspace ADD COLUMN consent_countries TEXT NOT NULL
  DEFAULT '["AT","BE","BG","CA","CH","CY","CZ","DE","DK","EE","ES","FI","FR","GB","GR","HR","HU","IE","IS","IT","LI","LT","LU","LV","MT","NL","NO","PL","PT","RO","SE","SI","SK"]';
ALTER TABLE workspace ADD COLUMN consent_unknown INTEGER NOT NULL DEFAULT 0 CHECK (consent_unknown IN (0, 1));

CREATE TABLE segments (
  -- A saved condition about people. A code names one that every workspace begins with.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, note TEXT NOT NULL DEFAULT '', condition TEXT NOT NULL,
  code TEXT UNIQUE, filled INTEGER NOT NULL DEFAULT 0 CHECK (filled IN (0, 1)), created_at INTEGER NOT NULL, changed_at INTEGER NOT NULL
) STRICT;

CREATE TABLE segment_people (
  -- Whether someone is in a segment, as last looked at, and when time alone may turn that.
  segment_id INTEGER NOT NULL REFERENCES segments (id), person_id INTEGER NOT NULL REFERENCES people (id),
  inside INTEGER NOT NULL CHECK (inside IN (0, 1)), turns_at INTEGER, PRIMARY KEY (segment_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX segment_people_turning ON segment_people (turns_at) WHERE turns_at IS NOT NULL;
CREATE INDEX segment_people_by_person ON segment_people (person_id);

CREATE TABLE looks (
  -- Someone to whom something happened and for whom the segments have not been looked at since. The event is the first of them: the others mostly come of it.
  person_id INTEGER PRIMARY KEY REFERENCES people (id), at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id)
) STRICT;
CREATE INDEX looks_by_time ON looks (at, person_id);
CREATE TRIGGER events_are_looked_at AFTER INSERT ON events WHEN new.person_id IS NOT NULL AND new.kind NOT IN ('entered-segment', 'left-segment')
BEGIN
  INSERT INTO looks (person_id, at, event_id) VALUES (new.person_id, new.at, new.id)
    ON CONFLICT (person_id) DO UPDATE SET at = max(at, excluded.at);
END;

CREATE TABLE former_addresses (
  -- An address that someone had until it was changed, or that was another's until the two were merged.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), address TEXT NOT NULL, address_key TEXT NOT NULL, until_at INTEGER NOT NULL,
  event_id INTEGER NOT NULL REFERENCES events (id)
) STRICT;
CREATE INDEX former_addresses_by_key ON former_addresses (address_key);
CREATE INDEX former_addresses_by_person ON former_addresses (person_id);

CREATE TABLE remembered (
  -- That somebody who was erased or merged away had left, or was not to come back: a keyed digest of the address says whose it was.
  digest TEXT PRIMARY KEY, status TEXT NOT NULL, at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE tasks (
  -- Something done to many people, by the engine and bit by bit: what is to be done, and how far it has come.
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, title TEXT NOT NULL, spec TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'stopped', 'failed')),
  total INTEGER NOT NULL, done INTEGER NOT NULL DEFAULT 0, changed INTEGER NOT NULL DEFAULT 0,
  event_id INTEGER NOT NULL REFERENCES events (id), undoes_id INTEGER UNIQUE REFERENCES tasks (id), problem TEXT,
  made_at INTEGER NOT NULL, ended_at INTEGER, CHECK (done <= total)
) STRICT;
CREATE INDEX tasks_open ON tasks (id) WHERE state IN ('waiting', 'running');

CREATE TABLE task_people (
  -- One person of a task, in the order in which it comes to them; what was done, and what was there before where it can be undone.
  task_id INTEGER NOT NULL REFERENCES tasks (id), n INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES people (id),
  outcome TEXT, before ANY, PRIMARY KEY (task_id, n)
) STRICT, WITHOUT ROWID;

-- Tags and lists that were deleted or merged into another keep their row for the history, under their former name.
ALTER TABLE tags ADD COLUMN gone TEXT CHECK (gone IN ('deleted', 'merged'));
ALTER TABLE tags ADD COLUMN merged_into INTEGER REFERENCES tags (id);
ALTER TABLE tags ADD COLUMN former_name TEXT;
-- The tag with blanks in its name that this one was filled in from.
ALTER TABLE tags ADD COLUMN made_from INTEGER REFERENCES tags (id);
CREATE INDEX tags_made_from ON tags (made_from) WHERE made_from IS NOT NULL;
ALTER TABLE lists ADD COLUMN gone TEXT CHECK (gone IN ('deleted', 'merged'));
ALTER TABLE lists ADD COLUMN merged_into INTEGER REFERENCES lists (id);
ALTER TABLE lists ADD COLUMN former_name TEXT;

CREATE TABLE rules (
  -- A house rule: what wakes it, and what it does, as JSON.
  id INTEGER PRIMARY KEY, on_kind TEXT NOT NULL CHECK (on_kind IN ('got-tag', 'lost-tag')), on_id INTEGER NOT NULL, actions TEXT NOT NULL
) STRICT;
CREATE INDEX rules_by_event ON rules (on_kind, on_id);

CREATE TABLE imports (
  -- A table of people that came in as a file. Once begun, a task works its rows off.
  id INTEGER PRIMARY KEY, file_name TEXT NOT NULL, encoding TEXT NOT NULL, delimiter TEXT NOT NULL, columns TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('reading', 'read', 'begun')), task_id INTEGER REFERENCES tasks (id), made_at INTEGER NOT NULL
) STRICT;

CREATE TABLE import_rows (
  -- One row that is not blank, in the order of the file, with its number in the file. What it said is kept only until it is worked off, or refused.
  import_id INTEGER NOT NULL REFERENCES imports (id), n INTEGER NOT NULL, row_number INTEGER NOT NULL, cells TEXT, outcome TEXT,
  person_id INTEGER REFERENCES people (id), address_key TEXT, problem TEXT, PRIMARY KEY (import_id, n)
) STRICT, WITHOUT ROWID;
CREATE INDEX import_rows_refused ON import_rows (address_key) WHERE address_key IS NOT NULL;
CREATE INDEX import_rows_by_person ON import_rows (person_id) WHERE person_id IS NOT NULL;

ALTER TABLE outbox ADD COLUMN last_opened_at INTEGER;
ALTER TABLE outbox ADD COLUMN last_clicked_at INTEGER;
UPDATE outbox SET last_opened_at = (SELECT max(at) FROM opens r WHERE r.outbox_id = outbox.id AND r.judged = 'reader'),
  last_clicked_at = (SELECT max(at) FROM clicks r WHERE r.outbox_id = outbox.id AND r.judged = 'reader');
DROP INDEX outbox_by_person;
CREATE INDEX outbox_by_person ON outbox (person_id, handed_over_at);
DROP INDEX outbox_left_house;
CREATE INDEX outbox_left_house ON outbox (handed_over_at, person_id) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_sent ON outbox (kind, thing_id, step_id, handed_over_at, person_id) WHERE handed_over_at IS NOT NULL;
CREATE INDEX outbox_opened ON outbox (kind, thing_id, step_id, last_opened_at, opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked ON outbox (kind, thing_id, step_id, last_clicked_at, clicked_at, person_id) WHERE clicked_at IS NOT NULL;
CREATE INDEX outbox_opened_when ON outbox (last_opened_at, person_id) WHERE opened_at IS NOT NULL;
CREATE INDEX outbox_clicked_when ON outbox (last_clicked_at, person_id) WHERE clicked_at IS NOT NULL;
CREATE INDEX clicks_by_link ON clicks (link_n, outbox_id) WHERE judged = 'reader';
CREATE INDEX message_links_by_url ON message_links (url);
CREATE INDEX enrolments_by_course ON enrolments (course_id, status, step_id, person_id);
`,
}
