import { withSends } from '#core/exchange/older'
import type { Migration } from './migration'

/** What may wait for an email, as JSON. */
const WITH_TRIGGERS = [
  ['courses', 'draft'], ['course_versions', 'program'], ['course_versions', 'source'], ['rules', 'rule'], ['rehearsals', 'story'],
] as const

/** What wakes on an email, or waits for one, names it as every other send is named. */
export const awaitedSends: Migration = {
  number: 25,
  name: 'what waits for an email names its send',
  sql: `UPDATE rules SET thing_id = NULL WHERE when_kind IN ('sent', 'opened');`,
  then(db) {
    for (const [table, column] of WITH_TRIGGERS) {
      const rows = db.prepare<[], { id: number, json: string }>(`
        SELECT id, ${column} AS json FROM ${table}
        WHERE instr(${column}, '"kind":"sent"') > 0 OR instr(${column}, '"kind":"opened"') > 0`).all()
      const update = db.prepare(`UPDATE ${table} SET ${column} = ? WHERE id = ?`)
      for (const { id, json } of rows) {
        const now = JSON.stringify(withSends(JSON.parse(json) as unknown))
        if (now !== json) update.run(now, id)
      }
    }
  },
}
