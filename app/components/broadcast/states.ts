/** How a broadcast stands, in a word and a dot. */
import { sayNumber } from '#core/stats/say'
import type { BroadcastLine, BroadcastProgress, BroadcastState } from '#core/views/broadcast'

export const DOT_OF_STATE: Record<BroadcastState, 'on' | 'off' | 'paused' | 'trouble'> = {
  draft: 'off', scheduled: 'on', sending: 'on', paused: 'paused', sent: 'on', stopped: 'paused',
}

/** `1,204 of 2,140`; as far as they are known already. */
export const sayGone = ({ handedOver, waiting }: BroadcastProgress): string =>
  `${sayNumber(handedOver)} of ${sayNumber(handedOver + waiting)}`

export function sayState({ state, progress }: Pick<BroadcastLine, 'state' | 'progress'>): string {
  if (progress && (state === 'sending' || state === 'paused')) return `${state}, ${sayGone(progress)}`
  return state
}
