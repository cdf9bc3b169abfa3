/** Whom the checks of a send hold back before it begins, as conditions: for its numbers and for the people behind them. */
import type { Condition } from '#core/audience/condition'
import type { Audience } from '#core/sending/audience'
import { heldBackBy, type CheckedSend } from '#core/sending/checks'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import type { HeldBackReason } from '#core/sending/reasons'
import type { Database } from '#data/connection'
import { findList } from '#data/marks'

/** `sells`: the offers that it sells. */
export interface CheckedAudience { kind: EmailKind, listId: number | null, audience: Audience, sells: readonly number[] }

/** `by`: the first reason of everybody in the audience who is held back. Nobody fits two of them, and `gets` fits all others. */
export interface AudienceChecks { by: { reason: HeldBackReason, fits: Condition }[], gets: Condition }

export const allOf = (...of: Condition[]): Condition => ({ kind: 'all', of })

export function audienceChecks(db: Database, { kind, listId, audience, sells }: CheckedAudience): AudienceChecks {
  const of: CheckedSend = {
    listId, closedListId: listId === null || findList(db, listId)?.takesEverybody === 1 ? null : listId, never: audience.never,
    newcomerDays: audience.newcomerDays, sells, ...audience.ownersToo && { ownersToo: true },
  }
  const by = [...heldBackBy(kindOf(kind).checks, of)].map(([reason, conditions]) => ({ reason, fits: allOf(...conditions) }))
  return { by, gets: allOf(audience.getsIt, { kind: 'none', of: by.map(({ fits }) => fits) }) }
}
