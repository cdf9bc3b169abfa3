/** Points: what each person has come to, and how it is reckoned. */
import { decayed, READY_SCORE, type Score, type ScoreRule } from '#core/score/score'
import { DAY, type Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

export function scoreRule(db: Database): ScoreRule {
  return keepSteady(db, 'score rule', () => {
    const { rule } = prepare<{ rule: string | null }>(db, 'SELECT score_rule AS rule FROM workspace WHERE id = 1').get()!
    return rule === null ? READY_SCORE : JSON.parse(rule) as ScoreRule
  })
}

/** Everybody has to be reckoned anew by it. */
export function setScoreRule(db: Database, rule: ScoreRule): void {
  prepare(db, 'UPDATE workspace SET score_rule = ?, score_recalculated_id = 0 WHERE id = 1').run(JSON.stringify(rule))
}

export function scoreOf(db: Database, personId: number): Score | null {
  return prepare<Score>(db, 'SELECT value, at FROM scores WHERE person_id = ?').get(personId) ?? null
}

export function setScore(db: Database, personId: number, { value, at }: Score): void {
  prepare(db, `
    INSERT INTO scores (person_id, value, at) VALUES (?, ?, ?) ON CONFLICT (person_id) DO UPDATE
    SET value = excluded.value, at = excluded.at`).run(personId, value, at)
}

/** Points of a rule or, without one, of a link, for one event. */
export function insertGivenPoints(
  db: Database, row: { eventId: number, personId: number, ruleId: number | null, at: Instant, points: number },
): void {
  prepare(
    db, 'INSERT INTO given_points (event_id, person_id, rule_id, at, points) VALUES (@eventId, @personId, @ruleId, @at, @points)',
  ).run(row)
}

/**
 * Everything that brought these people points: events by their kind, theirs and those of whom was merged into them, and what rules and
 * links gave.
 */
const BROUGHT = `
  WITH RECURSIVE same (id,
    person_id) AS (SELECT value, value FROM json_each(@people) UNION SELECT p.id, same.person_id FROM people p
      JOIN same ON p.merged_into = same.id)
  SELECT same.person_id, e.id AS event_id, e.at, j.value AS points, NULL AS rule_id FROM same JOIN events e ON e.person_id = same.id CROSS
    JOIN json_each(@points) j ON +e.kind = j.key
  WHERE e.kind NOT IN ('opened', 'clicked', 'visited-page', 'file-fetched') OR e.detail = 'reader'
  UNION ALL
  SELECT person_id, event_id, at, points, rule_id FROM given_points WHERE person_id IN (SELECT value FROM json_each(@people))`

export interface Brought { eventId: number, at: Instant, points: number, ruleId: number | null }

/** What brought someone points, newest first. */
export function broughtTo(db: Database, personId: number, { points }: ScoreRule): Brought[] {
  return prepare<Brought>(db, `SELECT event_id AS eventId, at, points, rule_id AS ruleId FROM (${BROUGHT}) ORDER BY at DESC, event_id DESC`)
    .all({ points: JSON.stringify(points), people: JSON.stringify([personId]) })
}

/** How many people have so many points or more. */
export function scoresAbove(db: Database, least: number, now: Instant, halfLifeDays: number): number {
  return prepare<{ n: number }>(db, `
    SELECT count(*) AS n FROM scores s JOIN people p ON p.id = s.person_id WHERE p.gone IS NULL
    AND decayed(s.value, s.at, ?, ?) >= ?`).get(now, halfLifeDays, least)!.n
}

/** Whether everybody is being reckoned anew. */
export function isRecalculating(db: Database): boolean {
  return prepare(db, 'SELECT 1 FROM workspace WHERE score_recalculated_id IS NOT NULL').get() !== undefined
}

/** Reckons some people anew, as of `now`, after the rule has changed. True while there is somebody left. */
export function recalculateSome(db: Database, now: Instant, limit: number): boolean {
  const { after } = prepare<{ after: number | null }>(db, 'SELECT score_recalculated_id AS after FROM workspace WHERE id = 1').get()!
  if (after === null) return false
  const people = prepare<{ id: number }>(db, 'SELECT id FROM people WHERE id > ? AND gone IS NULL ORDER BY id LIMIT ?').all(after, limit)
    .map(({ id }) => id)
  const { points, halfLifeDays } = scoreRule(db)
  const values = { people: JSON.stringify(people), points: JSON.stringify(points), now, life: halfLifeDays * DAY }
  prepare(db, 'DELETE FROM scores WHERE person_id IN (SELECT value FROM json_each(?))').run(values.people)
  prepare(db, `
    INSERT INTO scores (person_id, value, at)
    SELECT person_id, sum(points * pow(2, -max(@now - at, 0) / CAST(@life AS REAL))), @now FROM (${BROUGHT})
      GROUP BY person_id`).run(values)
  prepare(db, 'UPDATE workspace SET score_recalculated_id = ? WHERE id = 1').run(people.length < limit ? null : people.at(-1)!)
  return true
}

/** Two people turn out to be one: so are their points. */
export function mergeScores(db: Database, from: number, into: number): void {
  const [one, other] = [scoreOf(db, from), scoreOf(db, into)]
  prepare(db, 'DELETE FROM scores WHERE person_id = ?').run(from)
  if (!one) return
  const at = Math.max(one.at, other?.at ?? one.at)
  const { halfLifeDays } = scoreRule(db)
  setScore(db, into, {
    value: [one, other].reduce((sum, score) => sum + (score ? decayed(score.value, score.at, at, halfLifeDays) : 0), 0), at,
  })
}
