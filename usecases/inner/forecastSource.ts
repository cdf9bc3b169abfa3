/** What a feature that plans emails says of what is coming: for the rail, Today and the coming days. */
import type { SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { WorkspaceContext } from '../context'

/**
 * Told of emails of one send. `people` is what is expected, in parts of people where it is open which way they take; `spread` is the
 * variance of that.
 */
export type Add = (at: Instant, people: number, spread: number) => void

/** `to` is asked once for each send, or more often. */
export type ForecastSource = (
  context: Pick<WorkspaceContext, 'db' | 'baseUrl'>, range: { now: Instant, until: Instant }, to: (of: SendOf) => Add,
) => void
