import type { Migration } from './migration'

export const sendingPace: Migration = {
  number: 40,
  name: 'pace by receiving domain, plans for new senders, copies of broadcasts by a link',
  sql: `
-- How many a minute to which domain (DomainRates, JSON); null for no limit.
ALTER TABLE workspace ADD COLUMN domain_rates TEXT;
CREATE TABLE domain_pace (
  -- A receiving domain that gets so many emails a minute, or puts us off.
  -- When its next turn is free; how often in a row it put us off and was left alone; until when it is left alone, and what it said.
  domain TEXT PRIMARY KEY, next_at INTEGER, deferred INTEGER NOT NULL DEFAULT 0, pauses INTEGER NOT NULL DEFAULT 0,
  pause_until_at INTEGER, said TEXT
) STRICT, WITHOUT ROWID;
-- Until when an email waits for its turn, as its reason says.
ALTER TABLE outbox ADD COLUMN turn_at INTEGER;
CREATE INDEX outbox_turns ON outbox (reason, person_id) WHERE turn_at IS NOT NULL AND status = 'queued';
-- By which code whoever has the link can take a copy of a broadcast.
ALTER TABLE broadcasts ADD COLUMN copy_code TEXT;
CREATE UNIQUE INDEX broadcasts_by_copy_code ON broadcasts (copy_code) WHERE copy_code IS NOT NULL;
-- The plan of a new sender (WarmUp, JSON).
ALTER TABLE senders ADD COLUMN warm_up TEXT;
CREATE TABLE sender_days (
  -- How many emails left from a sender with a plan on one day of the workspace.
  sender_id INTEGER NOT NULL REFERENCES senders (id), date TEXT NOT NULL, sent INTEGER NOT NULL, PRIMARY KEY (sender_id, date)
) STRICT, WITHOUT ROWID;
`,
}
