/**
 * Visits wait here for at most a second and are then counted together: showing
 * a page must not wait for the disk. What ends without a word loses that second.
 */
import { OTHERS, writeTouch, type Touch } from '#core/page/touch'
import type { WorkspaceContext } from '#usecases/context'
import { countVisits, type Visits } from '#usecases/arrive/visits'
import { log } from './workspaces'

const WAIT_MS = 1000
/** While the engine writes, it is tried again after so long. */
const AGAIN_MS = 50
/** So many different ones are kept apart until then. */
const MOST = 500

const waiting = new Map<WorkspaceContext, Map<string, Visits>>()
let timer: ReturnType<typeof setTimeout> | undefined

export const visit = (context: WorkspaceContext, pageId: number, touch: Touch): void => wait(context, { kind: 'page', id: pageId }, touch)

export const visitOffer = (context: WorkspaceContext, offerId: number, touch: Touch): void =>
  wait(context, { kind: 'offer', id: offerId }, touch)

function wait(context: WorkspaceContext, shown: Visits['shown'], touch: Touch): void {
  const counted = waiting.get(context) ?? new Map<string, Visits>()
  waiting.set(context, counted)
  const kept = counted.size < MOST ? touch : OTHERS
  const key = `${shown.kind} ${shown.id} ${writeTouch(kept)}`
  const known = counted.get(key)
  if (known) known.visits++
  else counted.set(key, { shown, touch: kept, at: context.clock.now(), visits: 1 })
  timer ??= setTimeout(() => countWaiting(), WAIT_MS)
}

/** Also called when the server ends, before its databases are closed: then it waits until it can. */
export function countWaiting(atTheEnd = false): void {
  clearTimeout(timer)
  timer = undefined
  for (const [context, counted] of waiting) {
    try {
      if (!countVisits(context, [...counted.values()], !atTheEnd)) {
        timer ??= setTimeout(() => countWaiting(), AGAIN_MS)
        continue
      }
    }
    catch (error) {
      log.error({ err: error }, 'visits were not counted')
    }
    waiting.delete(context)
  }
}
