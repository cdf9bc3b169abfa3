import type { Database } from '../connection'
import type { Migration } from './migration'

/** What an email said so far of not being clicked. */
interface Before { ifNotClicked?: { days: number, tagId: number } | null, reactions?: object[] }

/** What was watched for of an email is one of its reactions from now on, in drafts and in what runs. */
function reactions(db: Database): void {
  const anew = (text: string) => JSON.stringify(JSON.parse(text, (_, value: unknown) => {
    if (typeof value !== 'object' || value === null || !('ifNotClicked' in value)) return value
    const { ifNotClicked, ...step } = value as Before
    return ifNotClicked ? { ...step, reactions: [{ id: 'not-clicked', on: 'not-clicked', within: { count: ifNotClicked.days, unit: 'days' }, then: [{ kind: 'give-tag', tagId: ifNotClicked.tagId }] }] } : step
  }))
  for (const [table, column] of [['courses', 'draft'], ['course_versions', 'program'], ['course_versions', 'source']]) {
    for (const { id, text } of db.prepare(`SELECT id, ${column} AS text FROM ${table} WHERE ${column} LIKE '%ifNotClicked%'`).all() as { id: number, text: string }[]) {
      db.prepare(`UPDATE ${table} SET ${column} = ? WHERE id = ?`).run(anew(text), id)
    }
  }
}

/** Sending hours and limits; courses that hold, fork and do things; their doors, rehearsals and readers who stand still. */
export const courses: Migration = {
  number: 15,
  name: 'courses',
  rebuilds: true,
  then: reactions,
  sql: `
-- A week of half-hours in which emails may leave, Monday first, as 336 letters 0 and 1; null for always.
ALTER TABLE workspace ADD COLUMN sending_hours TEXT;

-- How close together emails to one person may come, in minutes; how many in a day and in a week, null for any; what becomes of the rest.
ALTER TABLE workspace ADD COLUMN smallest_gap_min INTEGER NOT NULL DEFAULT 0;
ALTER TABLE workspace ADD COLUMN most_a_day INTEGER;
ALTER TABLE workspace ADD COLUMN most_a_week INTEGER;
ALTER TABLE workspace ADD COLUMN too_many TEXT NOT NULL DEFAULT 'wait' CHECK (too_many IN ('wait', 'drop'));

-- Since when someone waits in the hold they stand at, and until when at most; how many steps were done at one instant so far.
ALTER TABLE enrolments ADD COLUMN held_since INTEGER;
ALTER TABLE enrolments ADD COLUMN limit_at INTEGER;
ALTER TABLE enrolments ADD COLUMN hops INTEGER NOT NULL DEFAULT 0;
CREATE INDEX enrolments_holding ON enrolments (person_id) WHERE held_since IS NOT NULL;
-- Since when the owner lets them stand still there; and of a course of dates, which return of their date this is: those may overlap.
ALTER TABLE enrolments ADD COLUMN still_since INTEGER;
ALTER TABLE enrolments ADD COLUMN occurs_on TEXT;
DROP INDEX enrolments_open;
CREATE UNIQUE INDEX enrolments_open ON enrolments (course_id, person_id) WHERE status = 'open' AND occurs_on IS NULL;
CREATE UNIQUE INDEX enrolments_of_date ON enrolments (course_id, person_id, occurs_on) WHERE status = 'open' AND occurs_on IS NOT NULL;

-- Someone may also come in whenever they like, and begins anew.
CREATE TABLE new_courses (
  -- An email course: its draft, and which version runs.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, list_id INTEGER REFERENCES lists (id),
  status TEXT NOT NULL CHECK (status IN ('draft', 'running')),
  again TEXT NOT NULL CHECK (again IN ('once', 'after-ending', 'always')),
  draft TEXT NOT NULL, version_id INTEGER REFERENCES course_versions (id),
  created_at INTEGER NOT NULL, changed_at INTEGER NOT NULL, started_at INTEGER,
  -- When the running version was published, while some inside still stand in an older one; and the event of that.
  moving_at INTEGER, moving_event_id INTEGER REFERENCES events (id)
) STRICT;
INSERT INTO new_courses (id, name, list_id, status, again, draft, version_id, created_at, changed_at, started_at)
  SELECT id, name, list_id, status, again, draft, version_id, created_at, changed_at, started_at FROM courses;
DROP TABLE courses;
ALTER TABLE new_courses RENAME TO courses;

CREATE INDEX courses_moving ON courses (id) WHERE moving_at IS NOT NULL;
CREATE INDEX enrolments_by_version ON enrolments (course_id, version_id) WHERE status = 'open';

CREATE TABLE course_ways_in_lists (
  -- A list by joining which people come into a course.
  course_id INTEGER NOT NULL REFERENCES courses (id), list_id INTEGER NOT NULL REFERENCES lists (id),
  PRIMARY KEY (course_id, list_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX course_ways_in_lists_by_list ON course_ways_in_lists (list_id);

CREATE TABLE comings_in (
  -- Someone who will come into a course at a time of their own: who waits outside is let in day by day, who has a date comes with it.
  id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES courses (id), person_id INTEGER NOT NULL REFERENCES people (id),
  due_at INTEGER NOT NULL, occurs_on TEXT, cause_id INTEGER NOT NULL REFERENCES events (id),
  UNIQUE (course_id, person_id)
) STRICT;
CREATE INDEX comings_in_due ON comings_in (due_at, id);
CREATE INDEX comings_in_by_person ON comings_in (person_id);

CREATE TABLE rehearsals (
  -- A rehearsal kept with its course: the invented reader, and what happened to them, as JSON.
  id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES courses (id), reader TEXT NOT NULL, story TEXT NOT NULL, kept_at INTEGER NOT NULL
) STRICT;
CREATE INDEX rehearsals_by_course ON rehearsals (course_id);

CREATE TABLE new_watches (
  -- What is waited for beside an enrolment: no reader open of an email, or no click on it, until its limit. The reaction is named by its id in the step.
  id INTEGER PRIMARY KEY, outbox_id INTEGER NOT NULL REFERENCES outbox (id), reaction TEXT NOT NULL,
  limit_at INTEGER NOT NULL, due_at INTEGER NOT NULL, done_at INTEGER, UNIQUE (outbox_id, reaction)
) STRICT;
INSERT INTO new_watches (id, outbox_id, reaction, limit_at, due_at, done_at) SELECT id, outbox_id, 'not-clicked', due_at, due_at, done_at FROM watches;
DROP TABLE watches;
ALTER TABLE new_watches RENAME TO watches;
CREATE INDEX watches_due ON watches (due_at, id) WHERE done_at IS NULL;

-- A course can tell the owner something, too.
CREATE TABLE new_notices (
  -- Something a rule or a course tells the owner: here, and where it says so by email, at once or gathered once a day.
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES people (id), text TEXT NOT NULL, rule_id INTEGER REFERENCES rules (id),
  event_id INTEGER NOT NULL REFERENCES events (id), at INTEGER NOT NULL, seen_at INTEGER,
  email TEXT NOT NULL CHECK (email IN ('no', 'at-once', 'daily')), mail_due_at INTEGER, mailed_at INTEGER
) STRICT;
INSERT INTO new_notices (id, person_id, text, rule_id, event_id, at, seen_at, email, mail_due_at, mailed_at)
  SELECT id, person_id, text, rule_id, event_id, at, seen_at, email, mail_due_at, mailed_at FROM notices;
DROP TABLE notices;
ALTER TABLE new_notices RENAME TO notices;
CREATE INDEX notices_unseen ON notices (at) WHERE seen_at IS NULL;
CREATE INDEX notices_to_mail ON notices (mail_due_at, id) WHERE mail_due_at IS NOT NULL;
`,
}
