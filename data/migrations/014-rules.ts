import type { Migration } from './migration'

/** House rules of every kind and what they did; points; to-dos and notices; links with a name and consequences. */
export const rules: Migration = {
  number: 14,
  name: 'rules',
  rebuilds: true,
  sql: `
CREATE TABLE rules_anew (
  -- A house rule: what wakes it, for whom, what it does, how often, and why, as JSON. One that was deleted stays for the history.
  id INTEGER PRIMARY KEY, when_kind TEXT NOT NULL, thing_id INTEGER, rule TEXT NOT NULL,
  is_on INTEGER NOT NULL CHECK (is_on IN (0, 1)), made_at INTEGER NOT NULL, changed_at INTEGER NOT NULL, ended_at INTEGER
) STRICT;
INSERT INTO rules_anew (id, when_kind, thing_id, rule, is_on, made_at, changed_at)
  SELECT r.id, r.on_kind, r.on_id, json_object('when', json_object('kind', r.on_kind, 'thingId', r.on_id), 'who', json('{"kind":"all","of":[]}'), 'then', json(r.actions), 'often', json('{"kind":"each"}'), 'note', ''),
    1, w.created_at, w.created_at FROM rules r, workspace w;
DROP TABLE rules;
ALTER TABLE rules_anew RENAME TO rules;

-- Counts every change of what rules are made of, so that whoever keeps them in memory knows when to read them anew.
CREATE TABLE rules_change (id INTEGER PRIMARY KEY CHECK (id = 1), n INTEGER NOT NULL) STRICT;
INSERT INTO rules_change (id, n) VALUES (1, 0);
CREATE TRIGGER rules_made AFTER INSERT ON rules BEGIN UPDATE rules_change SET n = n + 1; END;
CREATE TRIGGER rules_changed AFTER UPDATE ON rules BEGIN UPDATE rules_change SET n = n + 1; END;
CREATE TRIGGER tags_ended AFTER UPDATE OF gone ON tags BEGIN UPDATE rules_change SET n = n + 1; END;
CREATE TRIGGER lists_ended AFTER UPDATE OF gone ON lists BEGIN UPDATE rules_change SET n = n + 1; END;
CREATE TRIGGER fields_ended AFTER DELETE ON fields BEGIN UPDATE rules_change SET n = n + 1; END;
CREATE TRIGGER segments_ended AFTER DELETE ON segments BEGIN UPDATE rules_change SET n = n + 1; END;

CREATE TABLE rule_firings (
  -- A rule acted on someone: the event that woke it, the one its chain began with, and what each of its actions came to, as JSON.
  -- It may have been woken again by the same beginning and was cut off then; so often.
  id INTEGER PRIMARY KEY, rule_id INTEGER NOT NULL REFERENCES rules (id), person_id INTEGER NOT NULL REFERENCES people (id),
  event_id INTEGER NOT NULL REFERENCES events (id), root_id INTEGER NOT NULL REFERENCES events (id), at INTEGER NOT NULL,
  did TEXT NOT NULL, cut INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX rule_firings_by_person ON rule_firings (person_id, rule_id, root_id, at);
CREATE INDEX rule_firings_by_rule ON rule_firings (rule_id, at);

-- The rule that wrote an event; the link, the incoming webhook and the to-do that an event is about.
ALTER TABLE events ADD COLUMN rule_id INTEGER;
ALTER TABLE events ADD COLUMN hook_id INTEGER;
ALTER TABLE events ADD COLUMN todo_id INTEGER;
ALTER TABLE events ADD COLUMN link_id INTEGER;

-- What a segment is kept for, as JSON, where it only watches for somebody falling silent or a date coming: nobody sees it then.
ALTER TABLE segments ADD COLUMN watch TEXT;

CREATE TABLE scores (
  -- The points someone has come to, as they stood at an instant.
  person_id INTEGER PRIMARY KEY REFERENCES people (id), value REAL NOT NULL, at INTEGER NOT NULL
) STRICT;
CREATE TABLE given_points (
  -- Points given for an event by a rule, or by the link that was followed; taken off if fewer than none. Those that events bring by their kind are read from the events.
  id INTEGER PRIMARY KEY, event_id INTEGER NOT NULL REFERENCES events (id), person_id INTEGER NOT NULL REFERENCES people (id), rule_id INTEGER REFERENCES rules (id),
  at INTEGER NOT NULL, points INTEGER NOT NULL
) STRICT;
CREATE INDEX given_points_by_person ON given_points (person_id);
-- A workspace that has the ready segments gets the warm people, too, unless its owner has called something else by that name.
INSERT OR IGNORE INTO segments (name, note, condition, code, created_at, changed_at)
  SELECT 'Warm people', 'Active, and 15 points or more: they lately opened or followed much, or took a second freebie.',
    '{"kind":"all","of":[{"kind":"all","of":[{"kind":"status","is":["active"]},{"kind":"score","atLeast":15}]},{"kind":"none","of":[]}]}', 'warm', created_at, created_at FROM workspace;
-- Half-life, points and thresholds as JSON; null for what every workspace begins with. Until where everybody was reckoned anew after a change; null once that is done.
ALTER TABLE workspace ADD COLUMN score_rule TEXT;
ALTER TABLE workspace ADD COLUMN score_reckoned_id INTEGER;
-- Whoever is here already has a past.
UPDATE workspace SET score_reckoned_id = 0;

CREATE TABLE todos (
  -- Something somebody is to do about a person. A helper is called by name; an empty one is the owner.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), text TEXT NOT NULL, helper TEXT NOT NULL DEFAULT '',
  due_on TEXT NOT NULL, rule_id INTEGER REFERENCES rules (id), event_id INTEGER NOT NULL REFERENCES events (id), made_at INTEGER NOT NULL, done_at INTEGER
) STRICT;
CREATE INDEX todos_open ON todos (due_on, id) WHERE done_at IS NULL;
CREATE INDEX todos_by_person ON todos (person_id);

CREATE TABLE notices (
  -- Something a rule tells the owner: here, and where it says so by email, at once or gathered once a day.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), text TEXT NOT NULL, rule_id INTEGER NOT NULL REFERENCES rules (id),
  event_id INTEGER NOT NULL REFERENCES events (id), at INTEGER NOT NULL, seen_at INTEGER,
  email TEXT NOT NULL CHECK (email IN ('no', 'at-once', 'daily')), mail_due_at INTEGER, mailed_at INTEGER
) STRICT;
CREATE INDEX notices_unseen ON notices (at) WHERE seen_at IS NULL;
CREATE INDEX notices_to_mail ON notices (mail_due_at, id) WHERE mail_due_at IS NOT NULL;

CREATE TABLE links (
  -- A named destination that emails lead to by redirect. What following it brings stands in does, as JSON actions; where asks is set, only after a second click on our page.
  -- The engine looks now and then whether the destination answers. One that was taken out of the library stays for the emails that have it.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, url TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', does TEXT NOT NULL DEFAULT '[]', asks INTEGER NOT NULL DEFAULT 0 CHECK (asks IN (0, 1)),
  made_at INTEGER NOT NULL, changed_at INTEGER NOT NULL, ended_at INTEGER,
  look_due_at INTEGER, looked_at INTEGER, trouble TEXT, trouble_since_at INTEGER
) STRICT;
CREATE INDEX links_by_url ON links (url);
CREATE INDEX links_to_look_at ON links (look_due_at, id) WHERE look_due_at IS NOT NULL;
INSERT INTO links (name, url, made_at, changed_at, look_due_at) SELECT min(k.label), k.url, w.created_at, w.created_at, w.created_at FROM message_links k, workspace w GROUP BY k.url;
CREATE TRIGGER links_ended AFTER UPDATE OF ended_at ON links BEGIN UPDATE rules_change SET n = n + 1; END;

CREATE TABLE link_acts (
  -- What following a link brought somebody, by the event of the click: each action with its outcome and how it stood before, as JSON, so that they can take it back.
  event_id INTEGER PRIMARY KEY REFERENCES events (id), person_id INTEGER NOT NULL REFERENCES people (id), link_id INTEGER NOT NULL REFERENCES links (id), label TEXT NOT NULL,
  at INTEGER NOT NULL, acts TEXT NOT NULL, undone_at INTEGER
) STRICT;
CREATE INDEX link_acts_by_person ON link_acts (person_id, at);

CREATE TABLE message_links_anew (
  -- A tracked link of an email: which of the library, and what this one use brings besides, as JSON actions. The address is that of its writing.
  message_id INTEGER NOT NULL REFERENCES messages (id), n INTEGER NOT NULL, url TEXT NOT NULL, label TEXT NOT NULL,
  link_id INTEGER NOT NULL REFERENCES links (id), does TEXT NOT NULL DEFAULT '[]', asks INTEGER NOT NULL DEFAULT 0 CHECK (asks IN (0, 1)), PRIMARY KEY (message_id, n)
) STRICT, WITHOUT ROWID;
INSERT INTO message_links_anew (message_id, n, url, label, link_id, does)
  SELECT k.message_id, k.n, k.url, k.label, l.id, CASE WHEN k.tag_id IS NULL THEN '[]' ELSE json_array(json_object('kind', 'give-tag', 'tagId', k.tag_id)) END FROM message_links k JOIN links l ON l.url = k.url;
DROP TABLE message_links;
ALTER TABLE message_links_anew RENAME TO message_links;
CREATE INDEX message_links_by_url ON message_links (url);
CREATE INDEX message_links_by_link ON message_links (link_id);

CREATE TABLE api_keys (
  -- A key by which a program comes in: only its digest and its last letters are kept.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, digest TEXT NOT NULL UNIQUE, hint TEXT NOT NULL, scopes TEXT NOT NULL, made_at INTEGER NOT NULL, last_used_at INTEGER, ended_at INTEGER
) STRICT;
CREATE TABLE api_answers (
  -- The answer to a request that had an idempotency key, for whoever sends the same once more.
  key_id INTEGER NOT NULL REFERENCES api_keys (id), idempotency_key TEXT NOT NULL, request_digest TEXT NOT NULL, status INTEGER NOT NULL, body TEXT NOT NULL, at INTEGER NOT NULL,
  PRIMARY KEY (key_id, idempotency_key)
) STRICT, WITHOUT ROWID;
CREATE INDEX api_answers_by_time ON api_answers (at);

-- Whether calls to addresses outside may go into private networks.
ALTER TABLE workspace ADD COLUMN hooks_inside INTEGER NOT NULL DEFAULT 0 CHECK (hooks_inside IN (0, 1));
CREATE TABLE hooks_in (
  -- An address of ours that something outside calls, for one purpose. How its calls are read stands in the reading, as JSON. One that was deleted stays for the history.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, token TEXT NOT NULL UNIQUE, secret TEXT NOT NULL, reading TEXT NOT NULL, made_at INTEGER NOT NULL, ended_at INTEGER
) STRICT;
CREATE TABLE hook_calls (
  -- A call that was taken, once by its identifier; or one that could not be used, and why.
  hook_id INTEGER NOT NULL REFERENCES hooks_in (id), call_id TEXT NOT NULL, at INTEGER NOT NULL, person_id INTEGER REFERENCES people (id), problem TEXT, PRIMARY KEY (hook_id, call_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE hooks_out (
  -- An address outside that rules call.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, url TEXT NOT NULL, secret TEXT NOT NULL, made_at INTEGER NOT NULL, ended_at INTEGER
) STRICT;
CREATE TABLE hook_deliveries (
  -- One call to an address outside, under one identifier however often it is tried. Its body is kept for sending it again.
  id INTEGER PRIMARY KEY, hook_id INTEGER NOT NULL REFERENCES hooks_out (id), webhook_id TEXT NOT NULL UNIQUE, body TEXT NOT NULL, person_id INTEGER REFERENCES people (id),
  event_id INTEGER NOT NULL REFERENCES events (id), rule_id INTEGER REFERENCES rules (id), made_at INTEGER NOT NULL,
  state TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'delivered', 'given up')), tries INTEGER NOT NULL DEFAULT 0, next_at INTEGER, status INTEGER, problem TEXT, ended_at INTEGER
) STRICT;
CREATE INDEX hook_deliveries_due ON hook_deliveries (next_at, id) WHERE next_at IS NOT NULL;
CREATE INDEX hook_deliveries_by_hook ON hook_deliveries (hook_id, id);
`,
}
