import type { Migration } from './migration'

/** The field's standard terms in place of words of our own; nothing else changes. */
export const names: Migration = {
  number: 22,
  name: 'names',
  sql: `
ALTER TABLE comings_in RENAME TO scheduled_entries;
ALTER TABLE scheduled_entries RENAME COLUMN waits TO is_held;
DROP INDEX comings_in_due;
DROP INDEX comings_in_waiting;
DROP INDEX comings_in_by_person;
CREATE INDEX scheduled_entries_due ON scheduled_entries (due_at, id) WHERE is_held = 0;
CREATE INDEX scheduled_entries_held ON scheduled_entries (course_id, id) WHERE is_held = 1;
CREATE INDEX scheduled_entries_by_person ON scheduled_entries (person_id);
UPDATE clearings SET what = 'scheduled-entries' WHERE what = 'comings';

ALTER TABLE courses RENAME COLUMN turned_at TO stop_changed_at;
ALTER TABLE courses RENAME COLUMN turn_event_id TO stop_event_id;

ALTER TABLE tellings RENAME TO payment_events;
ALTER TABLE payment_events RENAME COLUMN told TO fact;
DROP INDEX tellings_by_order;
CREATE INDEX payment_events_by_order ON payment_events (order_key, id);
ALTER TABLE told_in_vain RENAME TO unmatched_payment_events;

DROP TRIGGER events_are_looked_at;
ALTER TABLE looks RENAME TO segment_queue;
DROP INDEX looks_by_time;
CREATE INDEX segment_queue_by_time ON segment_queue (at, person_id);
CREATE TRIGGER events_reevaluate_segments AFTER INSERT ON events
WHEN new.person_id IS NOT NULL AND new.kind NOT IN ('entered-segment', 'left-segment') BEGIN
  INSERT INTO segment_queue (person_id, at, event_id) VALUES (new.person_id, new.at, new.id)
  ON CONFLICT (person_id) DO UPDATE SET at = max(at, excluded.at);
END;
ALTER TABLE segment_people RENAME COLUMN turns_at TO reevaluate_at;
DROP INDEX segment_people_turning;
CREATE INDEX segment_people_to_reevaluate ON segment_people (reevaluate_at) WHERE reevaluate_at IS NOT NULL;

ALTER TABLE watches RENAME TO timeouts;
DROP INDEX watches_due;
CREATE INDEX timeouts_due ON timeouts (due_at, id) WHERE done_at IS NULL;

ALTER TABLE links RENAME COLUMN look_due_at TO check_due_at;
ALTER TABLE links RENAME COLUMN looked_at TO checked_at;
DROP INDEX links_to_look_at;
CREATE INDEX links_to_check ON links (check_due_at, id) WHERE check_due_at IS NOT NULL;

ALTER TABLE workspace RENAME COLUMN score_reckoned_id TO score_recalculated_id;

UPDATE pages SET draft = json_remove(json_set(draft, '$.theme', json_extract(draft, '$.look')), '$.look')
  WHERE json_extract(draft, '$.look') IS NOT NULL;
UPDATE page_versions SET content = json_remove(json_set(content, '$.theme', json_extract(content, '$.look')), '$.look')
  WHERE json_extract(content, '$.look') IS NOT NULL;
UPDATE offers SET draft = json_remove(json_set(draft, '$.theme', json_extract(draft, '$.look')), '$.look')
  WHERE json_extract(draft, '$.look') IS NOT NULL;
UPDATE offer_versions SET content = json_remove(json_set(content, '$.theme', json_extract(content, '$.look')), '$.look')
  WHERE json_extract(content, '$.look') IS NOT NULL;
`,
}
