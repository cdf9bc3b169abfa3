/** How much one event has brought about for one person without any time passing. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

/** Returns how many steps that makes. */
export function addCascadeSteps(db: Database, rootId: number, personId: number, steps: number): number {
  return prepare<{ steps: number }>(db, `
    INSERT INTO cascades (root_id, person_id, steps) VALUES (?, ?, ?)
    ON CONFLICT (root_id, person_id) DO UPDATE SET steps = steps + excluded.steps RETURNING steps`).get(rootId, personId, steps)!.steps
}

export function cascadeSteps(db: Database, rootId: number, personId: number): number {
  return prepare<{ steps: number }>(db, 'SELECT steps FROM cascades WHERE root_id = ? AND person_id = ?').get(rootId, personId)?.steps ?? 0
}

/** True the first time: what is cut off again and again says nothing new. */
export function cutCascade(db: Database, rootId: number, personId: number): boolean {
  return prepare(db, 'UPDATE cascades SET cut = 1 WHERE root_id = ? AND person_id = ? AND cut = 0').run(rootId, personId).changes === 1
}

/** What was cut off since then, by course or rule, with how many people. */
export function cutSince(db: Database, since: Instant): { courseId: number | null, ruleId: number | null, people: number }[] {
  return prepare<{ courseId: number | null, ruleId: number | null, people: number }>(db, `
    SELECT course_id AS courseId, rule_id AS ruleId, count(DISTINCT person_id) AS people FROM events
    WHERE kind IN ('cascade-cut', 'rules-cut') AND at > ? GROUP BY course_id, rule_id ORDER BY people DESC`).all(since)
}
