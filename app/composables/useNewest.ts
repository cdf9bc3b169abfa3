/** Answers can overtake each other: what is asked anew must not be overwritten by a late answer to what was asked before. */
import { onScopeDispose } from 'vue'

/** Called when something is asked; what it returns says whether nothing has been asked since, and the screen is still there. */
export function useNewest(): () => () => boolean {
  let newest = 0
  onScopeDispose(() => newest++)
  return () => {
    const mine = ++newest
    return () => mine === newest
  }
}
