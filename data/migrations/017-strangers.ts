import type { Migration } from './migration'

export const strangers: Migration = {
  number: 17,
  name: 'strangers',
  sql: `
CREATE TABLE sessions (
  -- A browser that is signed in to this installation; only in practice, which is always there. The digest is of what its cookie holds, the credential that of the password it came in with.
  digest TEXT PRIMARY KEY, credential TEXT NOT NULL, made_at INTEGER NOT NULL, seen_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- The first name was typed into a form, and nobody has shown yet that the address is theirs: no email carries it until then.
ALTER TABLE people ADD COLUMN name_typed INTEGER NOT NULL DEFAULT 0 CHECK (name_typed IN (0, 1));

-- Whoever comes into the course joins its list as well, unless they left it.
ALTER TABLE courses ADD COLUMN joins_list INTEGER NOT NULL DEFAULT 0 CHECK (joins_list IN (0, 1));

-- Where on the net a checkout was begun, as a keyed digest: one place holds only so many places. Null where nothing told.
ALTER TABLE checkouts ADD COLUMN origin TEXT;

-- Whoever is asked at all is asked, known or not: a press of the button alone changes nothing about somebody known.
UPDATE pages SET draft = json_set(draft, '$.confirming.who', 'everybody') WHERE json_extract(draft, '$.confirming.who') = 'newcomers';
UPDATE page_versions SET content = json_set(content, '$.confirming.who', 'everybody') WHERE json_extract(content, '$.confirming.who') = 'newcomers';
`,
}
