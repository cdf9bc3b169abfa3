/** Beginning an import. The engine works its rows off: see time/importRows.ts. */
import { csvLines } from '#core/exchange/csv'
import { checkImportSpec, seemsToTellWhoLeft, type ImportSpec } from '#core/exchange/importing'
import { appendEvent } from '#data/events'
import { findField } from '#data/fields'
import { countImportRows, findImport, importRowsAfter, rowsWithProblem, setImportBegun, type ImportRow } from '#data/imports'
import { findList, findTag } from '#data/marks'
import { insertTask, nextTaskId } from '#data/tasks'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { filledTag } from '../inner/facts/marks'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'

/** The file, if what is to be done with it can be done. */
export function checkedImport(context: WorkspaceContext, id: number, spec: ImportSpec): ImportRow {
  const { db } = context
  const found = findImport(db, id)
  if (!found || found.state === 'reading') throw new NotThere('This file no longer exists. Drop it again.')
  if (found.state === 'begun') throw new NotNow('This file is being imported already.')
  const problems = checkImportSpec(spec, found.columns.length)
  if (spec.listIds.some(listId => !findList(db, listId))) {
    problems.push({ field: 'listIds', problem: 'A list no longer exists. Choose another one.' })
  }
  if (spec.tagIds.some(tagId => !findTag(db, tagId))) {
    problems.push({ field: 'tagIds', problem: 'A tag no longer exists. Choose another one.' })
  }
  if (spec.columns.some(({ target }) => target.kind === 'field' && !findField(db, target.fieldId))) {
    problems.push({ field: 'columns', problem: 'A field no longer exists. Choose another one.' })
  }
  if (problems.length === 0 && !spec.nobodyLeft) problems.push(...overlooked(context, found, spec))
  if (problems.length > 0) throw new InputProblem(problems)
  return found
}

const LOOKED_AT = 200

/** A column that is left out though it seems to tell who has left: without it everybody would come in as active. */
function overlooked({ db }: WorkspaceContext, { id, columns }: ImportRow, spec: ImportSpec): FieldProblem[] {
  const rows = importRowsAfter(db, id, 0, LOOKED_AT)
  const at = spec.columns.findIndex(({ target }, n) =>
    target.kind === 'nothing' && seemsToTellWhoLeft(columns[n]!, rows.map(({ cells }) => (cells[n] ?? '').trim()).filter(Boolean)))
  return at < 0 ? [] : [{
    field: 'nobodyLeft',
    problem: `The column “${columns[at]!}” seems to say who has left. Choose where it goes. If skipped, everyone in the file is imported as active.`,
  }]
}

/** Returns the number of the task that works it off. */
export function beginImport(context: WorkspaceContext, id: number, spec: ImportSpec): number {
  const { db } = context
  const taskId = transact(context, () => {
    const { fileName } = checkedImport(context, id, spec)
    const at = context.clock.now()
    // What a tag with blanks is filled in to is settled now, with the colour and the expiry of that tag.
    for (const tagId of spec.tagIds) filledTag(db, tagId, at)
    const eventId = appendEvent(db, 'task-begun', at, { taskId: nextTaskId(db) })
    const taskId = insertTask(db, {
      title: `import “${fileName}”`, spec: { kind: 'import', importId: id, spec }, total: countImportRows(db, id), eventId, undoesId: null,
      madeAt: at,
    })
    setImportBegun(db, id, taskId)
    return taskId
  })
  context.wake()
  return taskId
}

const BATCH = 500

/**
 * Rows that were refused, or came in without a part, as a table of the same columns, with the row in the file and the reason; it can be
 * mended and come in again.
 */
export function* oddRowsCsv({ db }: WorkspaceContext, id: number): Generator<string> {
  const found = findImport(db, id)
  if (!found) throw new NotThere('This file no longer exists.')
  yield csvLines([[...found.columns, 'row', 'came in', 'reason']])
  let rows = rowsWithProblem(db, id, 0, BATCH)
  while (rows.length > 0) {
    yield csvLines(rows.map(({ cells, rowNumber, problem, outcome }) => [
      ...found.columns.map((_, column) => cells[column] ?? ''), String(rowNumber),
      outcome === 'refused' ? 'no' : 'imported without that cell',
      problem,
    ]))
    rows = rowsWithProblem(db, id, rows.at(-1)!.n, BATCH)
  }
}
