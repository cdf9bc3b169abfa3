/** Working off the rows of an import, some in each transaction: where it was cut short, it goes on with the next row. */
import { readRow, sourceOf, type ImportSpec } from '#core/exchange/importing'
import { changeOf } from '#core/exchange/rowChange'
import type { Outcome, TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { insertConsent } from '#data/consents'
import { appendEvent, writingAs } from '#data/events'
import { findImport, importRowsAfter, setRowDone, setRowRefused } from '#data/imports'
import { allLists, findListByName, findTagByName, insertList, insertTag } from '#data/marks'
import { insertPerson, setCountry, setFirstName, setZone } from '#data/people'
import type { TaskRow } from '#data/tasks'
import type { WorkspaceContext } from '../context'
import { knownPerson, prepareImport, type Importing } from '../inner/importing'
import { changeStatus, giveTag, joinList, leaveList } from '../inner/facts/marks'
import { setField } from '../inner/facts/fieldValue'
import type { Cause } from '../inner/facts/cause'

type ImportTask = TaskRow & { spec: Extract<TaskSpec, { kind: 'import' }> }

/** In the caller's transaction. Returns what became of each row. */
export function importSome(context: WorkspaceContext, task: ImportTask, at: Instant, limit: number): Outcome[] {
  const { db } = context
  const { importId, spec } = task.spec
  const importing = prepareImport(db, findImport(db, importId)!.columns, spec, at)
  const tagIds = new Map<string, number>()
  const tagNamed = (name: string): number => {
    let id = tagIds.get(name)
    if (id === undefined) tagIds.set(name, id = findOrMakeTag(db, name, at))
    return id
  }
  return importRowsAfter(db, importId, task.done, limit).map(({ n, rowNumber, cells }) =>
    importOne(context, task, importing, tagNamed, { n, rowNumber, cells }, at))
}

function importOne(
  context: WorkspaceContext, task: ImportTask, importing: Importing, tagNamed: (name: string) => number,
  { n, rowNumber, cells }: { n: number, rowNumber: number, cells: string[] }, at: Instant,
): Outcome {
  const { db } = context
  const { importId } = task.spec
  const { spec } = importing
  const read = readRow(cells, importing.names, spec, importing.fields)
  if (!read.ok) {
    setRowRefused(db, importId, n, read.address.toLowerCase(), read.problem)
    return 'refused'
  }
  const { address, consentDate } = read.row
  const found = knownPerson(context, importing, address.key)
  const change = changeOf(read.row, found?.known ?? null, spec, importing.tags)
  if (change.outcome === 'refused') {
    setRowRefused(db, importId, n, address.key, change.problem)
    return 'refused'
  }
  const consentAt = change.consent && spec.consent.kind === 'given' ? importing.consentAt(consentDate ?? spec.consent.date) : null
  const personId = found?.id ?? insertPerson(db, {
    address: address.shown, addressKey: address.key, firstName: change.firstName ?? '', status: change.status === 'pending'
      ? 'pending'
      : 'active', zone: change.zone, country: change.country, source: sourceOf(spec), createdAt: at,
    consentAt,
  })
  const { status } = change
  // People imported as unsubscribed, bounced or unconfirmed start nothing.
  const quiet = !spec.starts || (status !== null && status !== 'active') ? 'wakes-nothing' : null
  if (change.outcome !== 'unchanged') writingAs(db, { quiet }, () => {
    const eventId = appendEvent(
      db, 'imported', at, { personId, causeId: task.eventId, taskId: task.id, detail: change.outcome },
      { address: address.shown, row: String(rowNumber) },
    )
    const cause: Cause = { at, causeId: eventId, ownAct: false }
    const known = found?.known
    if (known && change.firstName !== null) {
      setFirstName(db, personId, change.firstName, 'theirs')
      appendEvent(db, 'name-changed', at, { personId, causeId: eventId, detail: 'import' }, { from: known.firstName, to: change.firstName })
    }
    if (known && change.country !== null) {
      setCountry(db, personId, change.country)
      appendEvent(db, 'country-changed', at, {
        personId, causeId: eventId,
      }, { ...(known.country && { from: known.country }), to: change.country })
    }
    if (known && change.zone !== null) {
      setZone(db, personId, change.zone)
      appendEvent(db, 'zone-changed', at, { personId, causeId: eventId })
    }
    for (const [fieldId, value] of change.fields) setField(db, personId, fieldId, value, cause)
    if (consentAt !== null) recordConsent(db, spec, personId, consentAt, cause)
    for (const listId of change.listIds) joinList(db, personId, listId, cause)
    for (const list of change.lists) joinList(db, personId, findOrMakeList(db, list, at), cause)
    for (const list of change.listsLeft) leaveList(db, personId, findOrMakeList(db, list, at), cause)
    for (const tag of change.tags) giveTag(db, personId, tagNamed(tag), cause)
    // Last: how things stand with them is said of everything that came in.
    if (status === 'resting') changeStatus(db, personId, 'put-to-rest', cause)
    else if (status === 'unsubscribed' || status === 'bounced' || status === 'complained') changeStatus(db, personId, status, cause)
  })
  setRowDone(db, importId, n, {
    outcome: change.outcome, personId, leftOut: read.leftOut === undefined ? null : { addressKey: address.key, problem: read.leftOut },
  })
  return change.outcome
}

function recordConsent(db: Database, { consent }: ImportSpec, personId: number, givenAt: Instant, { at, causeId }: Cause): void {
  if (consent.kind !== 'given') return
  const eventId = appendEvent(db, 'consent-recorded', at, { personId, causeId })
  insertConsent(db, {
    personId, eventId, pageVersionId: null, origin: consent.origin.trim(), wording: consent.wording.trim(), at: givenAt, confirmedAt: null,
    ip: null, zone: null,
  })
}

/** A list that a row names is made where it is not there yet. */
function findOrMakeList(db: Database, name: string, at: Instant): number {
  return findListByName(db, name)?.id ?? insertList(db, {
    name, publicName: name, description: '', takesEverybody: allLists(db).length === 0 ? 1 : 0, offered: 0, createdAt: at,
  })
}

/** A tag that a row names is made where it is not there yet. */
function findOrMakeTag(db: Database, name: string, at: Instant): number {
  return findTagByName(db, name)?.id ?? insertTag(db, { name, note: '', group: '', colour: null, expiry: { kind: 'never' } }, at)
}
