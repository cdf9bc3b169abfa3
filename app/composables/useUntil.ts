/** Asks again and again while something is still under way; not at all once it is over, nor after the screen was left. */
import { useIntervalFn } from '@vueuse/core'

const AGAIN_MS = 700

export function useUntil(underWay: () => boolean, load: () => Promise<unknown>): void {
  useIntervalFn(() => underWay() && void load(), AGAIN_MS)
}
