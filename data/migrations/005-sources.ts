import type { Migration } from './migration'

/** Where visitors and subscribers come from: counted per page and day, kept with each opt-in, first and latest with each person. */
export const sources: Migration = {
  number: 5,
  name: 'sources',
  sql: `
CREATE TABLE named_sources (
  -- A source the owner gave a name, and the word that stands for it in addresses.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, slug TEXT NOT NULL UNIQUE, created_at INTEGER NOT NULL
) STRICT;
CREATE TABLE touches (
  -- What brings people, once for each that was ever told. Nothing personal.
  id INTEGER PRIMARY KEY, named TEXT NOT NULL, source TEXT NOT NULL, medium TEXT NOT NULL, campaign TEXT NOT NULL, term TEXT NOT NULL,
  content TEXT NOT NULL, referrer TEXT NOT NULL, UNIQUE (named, source, medium, campaign, term, content, referrer)
) STRICT;
CREATE TABLE page_visits (
  -- How often a page was shown on a day of the workspace's zone, by what brought the visitors. Neither cookies nor addresses are kept.
  page_id INTEGER NOT NULL REFERENCES pages (id), day TEXT NOT NULL, touch_id INTEGER NOT NULL REFERENCES touches (id),
  visits INTEGER NOT NULL CHECK (visits > 0), PRIMARY KEY (page_id, day, touch_id)
) STRICT, WITHOUT ROWID;
ALTER TABLE opt_ins ADD COLUMN touch_id INTEGER REFERENCES touches (id);
CREATE INDEX opt_ins_of_page ON opt_ins (page_id, at, touch_id, person_id);
CREATE INDEX opt_ins_by_touch ON opt_ins (touch_id, page_id) WHERE touch_id IS NOT NULL;
ALTER TABLE people ADD COLUMN first_touch_id INTEGER REFERENCES touches (id);
ALTER TABLE people ADD COLUMN latest_touch_id INTEGER REFERENCES touches (id);
`,
}
