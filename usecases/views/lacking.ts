/** For how many readers other words would stand in the place of a fact. */
import type { Condition } from '#core/audience/condition'
import { toSql } from '#core/audience/sql'
import type { PlaceholderField } from '#core/message/placeholders'
import { readTogether } from '#data/connection'
import { findList } from '#data/marks'
import { countNameless, countWhere } from '#data/people'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'

export interface LackingAsked { field: PlaceholderField, fieldId: number | null, listId: number | null }

/** Of those who can be emailed, on that list or anywhere. Null where it is not known beforehand. */
export function lacking({ db, clock }: WorkspaceContext, { field, fieldId, listId }: LackingAsked): { people: number, of: number } | null {
  return readTogether(db, () => {
    const moment = momentOf(db, clock.now())
    const readers = {
      kind: 'all' as const, of: [
        { kind: 'may-be-mailed' }, ...listId !== null && findList(db, listId) ? [{ kind: 'list', listId, is: 'joined' } as Condition] : [],
      ] as Condition[],
    }
    const count = (who: Condition) => countWhere(db, { search: '', where: toSql(who, moment) })
    if (field === 'first_name') return { people: countNameless(db, toSql(readers, moment)), of: count(readers) }
    if (field !== 'own' || fieldId === null) return null
    const unknown: Condition = { kind: 'none', of: [{ kind: 'field', fieldId, test: { is: 'known' } }] }
    return { people: count({ kind: 'all', of: [...readers.of, unknown] }), of: count(readers) }
  })
}
