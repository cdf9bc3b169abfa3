import type { Migration } from './migration'

/** What follows from an event goes by the event alone: whether it was the person's own act, and whether anything is to follow from it. */
export const ownActs: Migration = {
  number: 24,
  name: 'what follows from an event stands in it',
  sql: `
    ALTER TABLE events ADD COLUMN own_act INTEGER NOT NULL DEFAULT 0 CHECK (own_act IN (0, 1));
    -- Null where all follows from it that usually does.
    ALTER TABLE events ADD COLUMN quiet TEXT CHECK (quiet IN ('starts-nothing', 'wakes-nothing'));
  `,
}
