/** What will go out in the coming seven days: for the rail and for Today. */
import type { Instant } from '#core/time/zone'
import { DAY, MINUTE } from '#core/time/zone'
import type { ComingSend } from '#core/views/frame'
import type { SendOf } from '#core/sending/kinds'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { plansStamp } from '#data/due'
import type { WorkspaceContext } from '../context'
import { keyOfSend } from '../inner/sendNames'
import { aheadOf } from './ahead'

/** How far ahead it is looked. */
export const FORECAST_DAYS = 7

/** Of one send: when how many are expected to go, in parts of people where it is open which way they take. */
interface Send { of: SendOf, coming: { at: Instant, people: number }[] }

interface CachedForecast { minute: number, stamp: string, sends: Send[], tookMs: number, doneAtMs: number }

/** The last sends reckoned per database: every open screen asks every few seconds, and mostly nothing has changed. */
const lastForecasts = new WeakMap<Database, CachedForecast>()

/** While much happens at once to very many, what takes this long is reckoned anew only after some rest. */
const DEAR_MS = 250
const REST = 3

const isGood = (last: CachedForecast, minute: number, stamp: string) =>
  last.minute === minute && (last.stamp === stamp || (last.tookMs > DEAR_MS && performance.now() - last.doneAtMs < REST * last.tookMs))

/**
 * Coming emails of the next seven days, gathered per step within stretches of `stretch` milliseconds counted from now; `at` is the earliest
 * of each.
 */
export function forecast(context: WorkspaceContext, stretch: number): ComingSend[] {
  const now = context.clock.now()
  const gathered: ComingSend[] = []
  for (const { of, coming } of comingSends(context, now)) {
    const stretches = new Map<number, ComingSend>()
    for (const { at: plannedAt, people } of coming) {
      const at = Math.max(plannedAt, now)
      const nth = Math.floor((at - now) / stretch)
      const known = stretches.get(nth)
      if (known) {
        known.at = Math.min(known.at, at)
        known.people += people
      }
      else stretches.set(nth, { ...of, at, people })
    }
    gathered.push(...stretches.values())
  }
  // Parts of people, where it is open which way they take, are told as whole ones once they are gathered.
  return gathered.map(send => ({ ...send, people: Math.round(send.people) })).filter(({ people }) => people > 0)
    .sort((a, b) => a.at - b.at || b.people - a.people)
}

function comingSends({ db, baseUrl }: WorkspaceContext, now: Instant): Send[] {
  return readTogether(db, () => {
    const [minute, stamp, before] = [Math.floor(now / MINUTE), plansStamp(db), performance.now()]
    const last = lastForecasts.get(db)
    if (last && isGood(last, minute, stamp)) return last.sends
    const byKey = new Map<string, Send>()
    aheadOf({ db, baseUrl }, { now, until: now + FORECAST_DAYS * DAY, unit: 1 }).eachSend((of) => {
      // Several versions, and what waits already, may be of one send.
      const send = byKey.get(keyOfSend(of)) ?? { of, coming: [] }
      byKey.set(keyOfSend(of), send)
      return (at, people) => send.coming.push({ at, people })
    })
    const sends = [...byKey.values()]
    lastForecasts.set(db, { minute, stamp, sends, tookMs: performance.now() - before, doneAtMs: performance.now() })
    return sends
  })
}
