/** Whom a send goes to. */
import type { Condition } from '#core/audience/condition'
import { DAY, type Instant } from '#core/time/zone'

export interface Audience {
  getsIt: Condition
  /** Always wins; null where nobody is left out. */
  never: Condition | null
  /** How many days (24 hours each) people must have been here; null where newcomers get it, too. */
  newcomerDays: number | null
  /** People who have everything that it sells get it, too. */
  ownersToo?: true
}

/** Exactly so many days after joining somebody still is one, a millisecond later no more. */
export const isNewcomer = (joinedAt: Instant, plannedAt: Instant, newcomerDays: number | null): boolean =>
  newcomerDays !== null && plannedAt - joinedAt <= newcomerDays * DAY
