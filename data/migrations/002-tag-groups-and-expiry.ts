import type { Migration } from './migration'

/** Tags have a group, a colour and may vanish; each holding knows when. */
export const tagGroupsAndExpiry: Migration = {
  number: 2,
  name: 'tag-groups-and-expiry',
  sql: `
ALTER TABLE tags ADD COLUMN group_name TEXT NOT NULL DEFAULT '';
ALTER TABLE tags ADD COLUMN colour TEXT CHECK (colour GLOB '#[0-9a-f][0-9a-f][0-9a-f][0-9a-f][0-9a-f][0-9a-f]');
-- A tag vanishes so many days of 24 hours after it is given, or at the beginning of a date; at most one of the two.
ALTER TABLE tags ADD COLUMN expiry_days INTEGER CHECK (expiry_days > 0);
ALTER TABLE tags ADD COLUMN expiry_on TEXT CHECK (expiry_on IS NULL OR expiry_days IS NULL);
ALTER TABLE tag_holdings ADD COLUMN expires_at INTEGER;
CREATE INDEX tag_holdings_expiring ON tag_holdings (expires_at) WHERE expires_at IS NOT NULL;
`,
}
