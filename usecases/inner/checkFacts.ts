/**
 * What the checks of core/sending/checks.ts ask about one person and one send, read from the database: the same before it leaves and in
 * *why*.
 */
import { holds } from '#core/audience/meaning'
import { isNewcomer, type Audience } from '#core/sending/audience'
import { needsConsent } from '#core/people/country'
import type { CheckFacts } from '#core/sending/checks'
import type { Instant } from '#core/time/zone'
import type { Person } from '#core/views/people'
import { lazyFacts } from '#data/audience'
import { pauseOf } from '#data/choices'
import type { Database } from '#data/connection'
import { findList, membership } from '#data/marks'
import { consentRule } from '#data/workspace'
import { momentOf } from './moment'
import { standingWith } from './sold'

/** Nothing of what only the moment of leaving, or the audience it goes to, can tell. */
const NOT_BY_THEMSELVES = { leftCourse: false, inNever: false, isNewcomer: false, gotItAlready: false, tooLate: false, tooMany: false }

/** `listId`: null while an email has none yet; `sold`: the offers that it sells. */
export function checkFactsOf(
  db: Database, { id, status, consentAt, country }: Pick<Person, 'id' | 'status' | 'consentAt' | 'country'>,
  { listId, askedFor, sold }: { listId: number | null, askedFor: boolean, sold: readonly { id: number }[] },
): CheckFacts {
  return {
    ...NOT_BY_THEMSELVES, ...standingWith(db, id, sold), status, askedFor,
    list: listId === null ? 'joined' : membership(db, listId, id),
    listTakesEverybody: listId === null || findList(db, listId)?.takesEverybody === 1,
    consentMissing: consentAt === null && needsConsent(country, consentRule(db)),
    paused: pauseOf(db, id) !== null,
  }
}

/** The same of the audience it goes to; `plannedAt`: when it was to leave. */
export function audienceFactsOf(
  db: Database, audience: Audience | null, { id, createdAt }: Pick<Person, 'id' | 'createdAt'>, plannedAt: Instant, now = plannedAt,
): Pick<CheckFacts, 'inNever' | 'isNewcomer'> & Partial<Pick<CheckFacts, 'ownsIt'>> {
  if (audience === null) return { inNever: false, isNewcomer: false }
  const facts = audience.never && lazyFacts(db, id)
  return {
    inNever: facts !== null && facts !== undefined && holds(audience.never!, facts, momentOf(db, now)),
    isNewcomer: isNewcomer(createdAt, plannedAt, audience.newcomerDays),
    ...audience.ownersToo && { ownsIt: false },
  }
}
