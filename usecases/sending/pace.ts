/** How many emails are under way at a time: the owner's limit, or fewer when the server asks for it. */
import { MINUTE, type Instant } from '#core/time/zone'
import { connectionsNow, sendingPace, setSlowed, slowedTo } from '#data/carrier'
import { pauseCarrier } from '#data/workspace'
import type { EngineContext } from '../context'

/** After so long without being asked again, one connection more is tried. */
const CALM = 5 * MINUTE
/** Asked to slow down with a single connection left: nothing is tried for so long. */
const REST = MINUTE

/** Half as many from now on. The others go on meanwhile. */
export function slowDown({ db }: EngineContext, said: string, at: Instant): void {
  const now = connectionsNow(db)
  setSlowed(db, { to: Math.max(1, Math.floor(now / 2)), at, said })
  if (now === 1) pauseCarrier(db, at + REST, said)
}

/** One more, once it has gone well for a while. */
export function wentWell({ db }: EngineContext, at: Instant): void {
  const slowed = slowedTo(db)
  if (!slowed || at - slowed.at < CALM) return
  const next = slowed.to + 1
  setSlowed(db, next >= sendingPace(db).connections ? null : { ...slowed, to: next, at })
}
