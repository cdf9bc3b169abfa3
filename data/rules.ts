/** House rules. */
import type { Action, Happening, Rule } from '#core/rules/rule'
import type { Database } from './connection'
import { q } from './connection'

interface Raw { id: number, kind: Happening['kind'], tagId: number, actions: string }

const RULE = 'SELECT id, on_kind AS kind, on_id AS tagId, actions FROM rules'

const parse = ({ id, kind, tagId, actions }: Raw): Rule => ({ id, when: { kind, tagId }, then: JSON.parse(actions) as Action[] })

export function allRules(db: Database): Rule[] {
  return q<Raw>(db, `${RULE} ORDER BY id`).all().map(parse)
}

export function rulesOn(db: Database, { kind, tagId }: Happening): Rule[] {
  return q<Raw>(db, `${RULE} WHERE on_kind = ? AND on_id = ? ORDER BY id`).all(kind, tagId).map(parse)
}

export function insertRule(db: Database, { when, then }: Omit<Rule, 'id'>): void {
  q(db, 'INSERT INTO rules (on_kind, on_id, actions) VALUES (?, ?, ?)').run(when.kind, when.tagId, JSON.stringify(then))
}

export function deleteRule(db: Database, id: number): void {
  q(db, 'DELETE FROM rules WHERE id = ?').run(id)
}
