import type { Migration } from './migration'

/** Pages show pictures. */
export const pictures: Migration = {
  number: 7,
  name: 'pictures',
  sql: `
CREATE TABLE pictures (
  -- A picture for pages; width and height are those of its largest size.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, created_at INTEGER NOT NULL
) STRICT;
CREATE TABLE picture_sizes (
  -- A picture in one width, or cut as it is shared (0).
  id INTEGER PRIMARY KEY, picture_id INTEGER NOT NULL REFERENCES pictures (id), width INTEGER NOT NULL, content BLOB NOT NULL, UNIQUE (picture_id, width)
) STRICT;
`,
}
