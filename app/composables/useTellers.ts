/** What is told a moment late while one writes is told at once before it is saved. */
import { onScopeDispose } from 'vue'

const tellers = new Set<() => void>()

/** For as long as who calls it is there. */
export function tellBeforeSaving(tell: () => void): void {
  tellers.add(tell)
  onScopeDispose(() => tellers.delete(tell))
}

export function tellAll(): void {
  for (const tell of tellers) tell()
}
