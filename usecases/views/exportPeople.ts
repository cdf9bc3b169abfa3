/** People as the rows of a file. */
import { exportColumns } from '#core/exchange/columns'
import { csvLines } from '#core/exchange/csv'
import { sayIso } from '#core/time/say'
import { toSql } from '#core/audience/sql'
import { peopleIds, peopleByIds } from '#data/people'
import { readTogether } from '#data/connection'
import { allFields } from '#data/fields'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'
import type { Narrowing } from '../inner/narrowing'
import { conditionOf } from '../inner/narrowing'

/** Whom an export holds, settled when it begins, in the order of their numbers. */
export function idsToExport(
  context: WorkspaceContext, { search, narrowing, ids }: { search: string, narrowing: Narrowing, ids: number[] | null },
): number[] {
  const { db } = context
  return readTogether(db, () => {
    const found = peopleIds(db, { search, where: toSql(conditionOf(context, narrowing), momentOf(db, context.clock.now())) })
    if (!ids) return found
    const picked = new Set(ids)
    return found.filter(id => picked.has(id))
  })
}

/** The head line, and a writer of lines for some of the people at a time. The address is always a column. */
export function exportWriter({ db }: WorkspaceContext, columnIds: string[]): { head: string, lines(ids: number[]): string } {
  const columns = exportColumns(allFields(db), sayIso).filter(({ id }) => id === 'address' || columnIds.includes(id))
  return {
    head: csvLines([columns.map(({ name }) => name)]),
    lines: ids => csvLines(peopleByIds(db, ids).map(person => columns.map(column => column.of(person)))),
  }
}
