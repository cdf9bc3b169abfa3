/** House rules, and what they did. */
import type { Action, Rule, RuleInput } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

interface Raw { id: number, rule: string, isOn: 0 | 1 }

const RULE = 'SELECT id, rule, is_on AS isOn FROM rules'

const parse = ({ id, rule, isOn }: Raw): Rule => ({ ...JSON.parse(rule) as Omit<RuleInput, 'on'>, id, on: isOn === 1 })

/** In the order in which they act. */
export function allRules(db: Database): Rule[] {
  return prepare<Raw>(db, `${RULE} WHERE ended_at IS NULL ORDER BY id`).all().map(parse)
}

export function countRules(db: Database): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM rules WHERE ended_at IS NULL').get()!.n
}

export function findRule(db: Database, id: number): Rule | undefined {
  const row = prepare<Raw>(db, `${RULE} WHERE id = ? AND ended_at IS NULL`).get(id)
  return row && parse(row)
}

/** Of one that was deleted, too: what it said last. */
export function rulesEver(db: Database, ids: number[]): Map<number, Rule> {
  return new Map(
    prepare<Raw>(db, `${RULE} WHERE id IN (SELECT value FROM json_each(?))`).all(JSON.stringify(ids)).map(row => [row.id, parse(row)]),
  )
}

export function insertRule(db: Database, { on, ...rule }: RuleInput, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO rules (when_kind, thing_id, rule, is_on, made_at, changed_at) VALUES (?, ?, ?, ?, ?, ?)')
    .run(rule.when.kind, rule.when.thingId, JSON.stringify(rule), on ? 1 : 0, at, at).lastInsertRowid)
}

export function updateRule(db: Database, id: number, { on, ...rule }: RuleInput, at: Instant): void {
  const { id: _, ...said } = rule as Omit<Rule, 'on'>
  prepare(db, 'UPDATE rules SET when_kind = ?, thing_id = ?, rule = ?, is_on = ?, changed_at = ? WHERE id = ?').run(
    rule.when.kind, rule.when.thingId, JSON.stringify(said), on ? 1 : 0, at, id,
  )
}

export function endRule(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE rules SET ended_at = ?, is_on = 0 WHERE id = ?').run(at, id)
}

/** Another number than before: what rules are made of has changed. */
export function rulesChange(db: Database): number {
  return keepSteady(db, 'rules change', () => prepare<{ n: number }>(db, 'SELECT n FROM rules_change').get()!.n)
}

/* What they did */

/** What an action came to: a word for it. */
export interface Did { kind: Action['kind'], outcome: string }

export interface Firing { ruleId: number, personId: number, eventId: number, rootId: number, at: Instant, did: Did[] }

export function insertFiring(db: Database, { ruleId, personId, eventId, rootId, at, did }: Firing): void {
  prepare(db, 'INSERT INTO rule_firings (rule_id, person_id, event_id, root_id, at, did) VALUES (?, ?, ?, ?, ?, ?)').run(
    ruleId, personId, eventId, rootId, at, JSON.stringify(did),
  )
}

/** When a rule last acted on someone, ever and for one root event. */
export function actedBefore(db: Database, ruleId: number, personId: number, rootId: number): { lastAt: Instant | null, sameRoot: boolean } {
  const { lastAt, same } = prepare<{ lastAt: Instant | null, same: number }>(db, `
    SELECT max(at) AS lastAt, coalesce(max(root_id = @rootId), 0) AS same FROM rule_firings WHERE person_id = @personId
    AND rule_id = @ruleId`).get({ ruleId, personId, rootId })!
  return { lastAt, sameRoot: same === 1 }
}

/** It was woken once more by the same beginning. True if that is the first time. */
export function countCut(db: Database, ruleId: number, personId: number, rootId: number): boolean {
  return prepare<{ cut: number }>(
    db, 'UPDATE rule_firings SET cut = cut + 1 WHERE person_id = ? AND rule_id = ? AND root_id = ? RETURNING cut',
  ).get(personId, ruleId, rootId)?.cut === 1
}

/** Per rule since an instant, that included: how often it acted, and on how many of the people there are. */
export function firingsSince(db: Database, since: Instant): Map<number, { times: number, people: number, lastAt: Instant }> {
  return new Map(prepare<{ id: number, times: number, people: number, lastAt: Instant }>(db, `
    SELECT g.rule_id AS id, count(*) AS times, count(DISTINCT CASE WHEN p.gone IS NULL THEN p.id END) AS people, max(g.at) AS lastAt
    FROM rule_firings g JOIN people p ON p.id = g.person_id WHERE g.at >= ?
      GROUP BY g.rule_id`).all(since).map(({ id, ...row }) => [id, row]))
}

export interface FiringRow extends Firing { id: number, cut: number }
type RawFiring = Omit<FiringRow, 'did'> & { did: string }
const FIRING = 'SELECT id, rule_id AS ruleId, person_id AS personId, event_id AS eventId, root_id AS rootId, at, did, cut FROM rule_firings'
const parseFiring = (row: RawFiring): FiringRow => ({ ...row, did: JSON.parse(row.did) as Did[] })

/** The last times, newest first. */
export function firingsOfRule(db: Database, ruleId: number, limit: number): FiringRow[] {
  return prepare<RawFiring>(db, `${FIRING} WHERE rule_id = ? ORDER BY at DESC, id DESC LIMIT ?`).all(ruleId, limit).map(parseFiring)
}

/** Everything that rules did to someone from one beginning, in order. */
export function firingsOfRoot(db: Database, personId: number, rootId: number): FiringRow[] {
  return prepare<RawFiring>(db, `${FIRING} WHERE person_id = ? AND root_id = ? ORDER BY id`).all(personId, rootId).map(parseFiring)
}

export function findFiring(db: Database, id: number): FiringRow | undefined {
  const row = prepare<RawFiring>(db, `${FIRING} WHERE id = ?`).get(id)
  return row && parseFiring(row)
}
