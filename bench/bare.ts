/** What an import writes, each row of it, by prepared statements alone: nothing is read, checked or decided. */
import type { WorkspaceContext } from '#usecases/context'
import { NOW } from './generate'

/** As many people in a transaction as the engine does. */
const BATCH = 250

/** Returned is what does it: what is made ready for it here does not count. */
export function bareInserts({ db }: WorkspaceContext, rows: number, townId: number): () => void {
  const into = (table: string, columns: string) =>
    db.prepare(`INSERT INTO ${table} (${columns}) VALUES (${columns.split(',').map(() => '?').join(',')})`)
  const person = into('people', 'address,address_key,first_name,search_text,status,country,source,created_at,consent_at')
  const came = into('events', 'kind,at,person_id,cause_id,task_id,detail')
  const changed = into('events', 'kind,at,person_id,cause_id,field_id')
  const consented = into('events', 'kind,at,person_id,cause_id')
  const joined = into('events', 'kind,at,person_id,cause_id,list_id')
  const tagged = into('events', 'kind,at,person_id,cause_id,tag_id')
  const personal = into('event_personal', 'event_id,facts')
  const consent = into('consents', 'person_id,event_id,origin,wording,at')
  const member = into('list_members', 'list_id,person_id,joined_at,event_id')
  const holding = into('tag_holdings', 'tag_id,person_id,since_at,event_id')
  const field = into('field_values', 'field_id,person_id,value')
  const [task] = db.prepare<[], { id: number, eventId: number }>('SELECT id, event_id AS eventId FROM tasks ORDER BY id DESC LIMIT 1').all()
  const { importId } = db.prepare<[], { importId: number }>('SELECT max(id) AS importId FROM imports').get()!
  // The rows that are worked off are made anew, as they wait for that.
  db.prepare('UPDATE import_rows SET outcome = NULL, person_id = NULL, cells = \'["a","b","c","d"]\' WHERE import_id = ?').run(importId)
  db.prepare('UPDATE tasks SET done = 0, changed = 0 WHERE id = ?').run(task!.id)
  const done = db.prepare('UPDATE import_rows SET outcome = ?, person_id = ?, cells = NULL WHERE import_id = ? AND n = ?')
  const tally = db.prepare('UPDATE tasks SET done = done + ?, changed = changed + ? WHERE id = ?')
  const one = (n: number) => {
    const address = `bare${n}@example.com`
    const name = `Name ${n % 977}`
    const country = ['PT', 'DE', 'US', null][n % 4]
    const personId = person.run(
      address, address, name, `${address} ${name.toLowerCase()}`, 'active', country, 'import:bench', NOW, NOW,
    ).lastInsertRowid
    const cause = came.run('imported', NOW, personId, task!.eventId, task!.id, 'new').lastInsertRowid
    personal.run(cause, JSON.stringify({ address, row: String(n + 2) }))
    field.run(townId, personId, 'Porto')
    personal.run(changed.run('field-changed', NOW, personId, cause, townId).lastInsertRowid, JSON.stringify({ to: 'Porto' }))
    consent.run(personId, consented.run('consent-recorded', NOW, personId, cause).lastInsertRowid, 'at the fair', 'Letters, please.', NOW)
    member.run(1, personId, NOW, joined.run('joined-list', NOW, personId, cause, 1).lastInsertRowid)
    holding.run(20, personId, NOW, tagged.run('got-tag', NOW, personId, cause, 20).lastInsertRowid)
    done.run('new', personId, importId, n + 1)
  }
  return () => {
    for (let from = 0; from < rows; from += BATCH) {
      db.transaction(() => {
        for (let n = from; n < from + BATCH && n < rows; n++) one(n)
        tally.run(BATCH, BATCH, task!.id)
      }).immediate()
    }
  }
}
