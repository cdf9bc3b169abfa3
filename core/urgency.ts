/** In which order the owner sees to things. */
import type { Notice } from './views/today'

/** The most urgent first: what goes wrong at a known moment, what is wrong, what can be done by a moment, and all else in its order. */
export const byUrgency = (notices: readonly Notice[]): Notice[] => notices
  .map((notice, n) => ({ notice, n, class: (notice.tone === 'trouble' ? 0 : 2) + (notice.by === undefined ? 1 : 0) }))
  .sort((a, b) => a.class - b.class || (a.notice.by ?? 0) - (b.notice.by ?? 0) || a.n - b.n)
  .map(({ notice }) => notice)
