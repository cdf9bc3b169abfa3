import type { Migration } from './migration'

export const senders: Migration = {
  number: 36,
  name: 'several senders, and the keys of their domains',
  sql: `
CREATE TABLE senders (
  -- Somebody whom emails are from.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, address TEXT NOT NULL, address_key TEXT NOT NULL, reply_to TEXT NOT NULL DEFAULT '',
  service_url TEXT, made_at INTEGER NOT NULL, gone_at INTEGER,
  -- That its owner reads what is sent there: a code was sent, and typed here.
  confirmed_at INTEGER, code TEXT, code_until_at INTEGER, code_tries INTEGER NOT NULL DEFAULT 0,
  -- Its own mail service refuses: what waits for it goes on once that is mended.
  stopped_reason TEXT, stopped_at INTEGER
) STRICT;
CREATE UNIQUE INDEX senders_address ON senders (address_key) WHERE gone_at IS NULL;
CREATE TABLE mail_domains (
  -- The domain of a sender's address.
  domain TEXT PRIMARY KEY, selector TEXT, private_key TEXT, public_key TEXT,
  -- What the name servers said the last time, as JSON.
  published TEXT, checked_at INTEGER, trouble TEXT, check_due_at INTEGER
) STRICT;
CREATE INDEX mail_domains_due ON mail_domains (check_due_at) WHERE check_due_at IS NOT NULL;
CREATE TABLE practice_dns (
  -- What the name servers of practice answer beside a name.
  name TEXT PRIMARY KEY, value TEXT NOT NULL
) STRICT;
ALTER TABLE workspace ADD COLUMN sender_id INTEGER REFERENCES senders (id);
ALTER TABLE lists ADD COLUMN sender_id INTEGER REFERENCES senders (id);
ALTER TABLE tags ADD COLUMN sender_id INTEGER REFERENCES senders (id);
ALTER TABLE test_emails ADD COLUMN sender_id INTEGER REFERENCES senders (id);
-- Emails have left from it: it need not be confirmed anew.
INSERT INTO senders (id, name, address, address_key, made_at, confirmed_at)
  SELECT 1, sender_name, sender_address, lower(sender_address), created_at, created_at FROM workspace
  WHERE sender_address <> '' OR sender_name <> '';
UPDATE workspace SET sender_id = (SELECT id FROM senders);
ALTER TABLE workspace DROP COLUMN sender_name;
ALTER TABLE workspace DROP COLUMN sender_address;
`,
}
