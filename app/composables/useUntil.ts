/** Asks again and again while something is still under way; not at all once it is over, nor after the screen was left. */
import { onBeforeUnmount } from 'vue'

const AGAIN_MS = 700

export function useUntil(underWay: () => boolean, load: () => Promise<unknown>): void {
  const timer = setInterval(() => underWay() && void load(), AGAIN_MS)
  onBeforeUnmount(() => clearInterval(timer))
}
