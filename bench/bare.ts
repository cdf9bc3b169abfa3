/** What an import writes, by prepared statements alone: nothing is read, checked or decided. */
import type { WorkspaceContext } from '#usecases/context'
import { NOW } from './generate'

/** As many people in a transaction as the engine does. */
const BATCH = 250

export function bareInserts({ db }: WorkspaceContext, rows: number, townId: number): void {
  const into = (table: string, columns: string) =>
    db.prepare(`INSERT INTO ${table} (${columns}) VALUES (${columns.split(',').map(() => '?').join(',')})`)
  const person = into('people', 'address,address_key,first_name,search_text,status,country,source,created_at,consent_at')
  const event = into('events', 'kind,at,person_id,cause_id,list_id,tag_id,field_id,task_id,detail')
  const personal = into('event_personal', 'event_id,facts')
  const consent = into('consents', 'person_id,event_id,origin,wording,at')
  const member = into('list_members', 'list_id,person_id,joined_at,event_id')
  const holding = into('tag_holdings', 'tag_id,person_id,since_at,event_id')
  const field = into('field_values', 'field_id,person_id,value')
  const one = (n: number) => {
    const address = `bare${n}@example.com`
    const name = `Name ${n % 977}`
    const country = ['PT', 'DE', 'US', null][n % 4]
    const personId = person.run(
      address, address, name, `${address} ${name.toLowerCase()}`, 'active', country, 'import:bench', NOW, NOW,
    ).lastInsertRowid
    const happened = (kind: string, listId: number | null, tagId: number | null, fieldId: number | null) =>
      event.run(kind, NOW, personId, null, listId, tagId, fieldId, null, null).lastInsertRowid
    personal.run(happened('imported', null, null, null), JSON.stringify({ address, row: String(n + 2) }))
    const changed = happened('field-changed', null, null, townId)
    personal.run(changed, JSON.stringify({ to: 'Porto' }))
    field.run(townId, personId, 'Porto')
    consent.run(personId, happened('consent-recorded', null, null, null), 'at the fair', 'Letters, please.', NOW)
    member.run(1, personId, NOW, happened('joined-list', 1, null, null))
    holding.run(20, personId, NOW, happened('got-tag', null, 20, null))
  }
  for (let from = 0; from < rows; from += BATCH) {
    db.transaction(() => {
      for (let n = from; n < from + BATCH && n < rows; n++) one(n)
    }).immediate()
  }
}
