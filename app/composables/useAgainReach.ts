/** Whom a second sending would reach now, asked anew as what it is for changes. */
import { ref, watch } from 'vue'
import type { AgainSpec } from '#core/broadcast/again'
import type { AgainReach } from '#core/views/broadcast'
import { api, ApiProblem } from './useApi'
import { useNewest } from './useNewest'

export function useAgainReach(id: number, spec: () => AgainSpec) {
  const reach = ref<AgainReach | null>(null)
  const problem = ref<string | null>(null)
  const newest = useNewest()
  watch(() => {
    const { subject: _, ...asked } = spec()
    return JSON.stringify(asked)
  }, async (text) => {
    const isNewest = newest()
    try {
      const answer = await api('POST /broadcasts/:id/again/reach', { at: { id }, body: JSON.parse(text) as Omit<AgainSpec, 'subject'> })
      if (!isNewest()) return
      reach.value = answer
      problem.value = null
    }
    catch (error) {
      if (isNewest()) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
  }, { immediate: true })
  return { reach, problem }
}
