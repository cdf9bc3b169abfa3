/** Calls that were given up. */
import { DAY, type Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { givenUpSince } from '#data/hooks'
import type { WorkspaceContext } from '../context'
import { saySome } from '#core/stats/say'

export function hookNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  return givenUpSince(db, now - 7 * DAY).map(({ name, n }) => ({
    tone: 'trouble' as const, title: `${name} could not be called`,
    text: `${saySome(n, 'call', 'calls')} failed this week, after a day of trying. Each one says why and can be sent again.`,
    to: '/webhooks', action: 'See the calls',
  }))
}
