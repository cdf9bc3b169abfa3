import type { Migration } from './migration'

export const sentAsksNoSegment: Migration = {
  number: 41,
  name: 'a sent email re-evaluates people only if a segment asks about emails',
  sql: `
DROP TRIGGER events_reevaluate_segments;
-- A sent email can only change segments that ask about emails. Otherwise a broadcast would re-evaluate everybody for nothing.
CREATE TRIGGER events_reevaluate_segments AFTER INSERT ON events
WHEN new.person_id IS NOT NULL AND new.kind NOT IN ('entered-segment', 'left-segment')
  AND (new.kind <> 'sent' OR EXISTS (SELECT 1 FROM segments WHERE gone = 0 AND instr(condition, '"kind":"email"') > 0)) BEGIN
  INSERT INTO segment_queue (person_id, at, event_id) VALUES (new.person_id, new.at, new.id)
  ON CONFLICT (person_id) DO UPDATE SET at = max(at, excluded.at);
END;
`,
}
