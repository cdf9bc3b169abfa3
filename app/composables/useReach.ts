/**
 * Whom a broadcast would reach, counted a moment after each change and whenever something has happened; an answer to an older question is
 * dropped. It is `counting` while what is counted is not what the draft says: what has happened meanwhile takes no button away.
 */
import { ref, watch, type Ref } from 'vue'
import { useTimeoutFn } from '@vueuse/core'
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { BroadcastReach } from '#core/views/broadcast'
import { useFrame } from '~/stores/frame'
import { api, ApiProblem } from './useApi'
import { useNewest } from './useNewest'

const QUIET_MS = 250

/** Asks while there is a draft. */
export function useReach(id: number, draft: () => BroadcastDraft | null) {
  const frame = useFrame()
  const reach: Ref<BroadcastReach | null> = ref(null)
  const problem = ref<string | null>(null)
  const counting = ref(false)
  const newest = useNewest()

  async function count() {
    const isNewest = newest()
    const body = draft()
    if (!body) return
    try {
      const answer = await api('POST /broadcasts/:id/reach', { at: { id }, body, asker: `reach-${performance.timeOrigin}` })
      if (!isNewest()) return
      reach.value = answer
      problem.value = null
    }
    catch (error) {
      if (isNewest()) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
    finally {
      if (isNewest()) counting.value = false
    }
  }

  const soon = useTimeoutFn(count, QUIET_MS, { immediate: false })
  watch(() => JSON.stringify(draft()), () => {
    newest()
    counting.value = draft() !== null
    soon.start()
  }, { immediate: true })
  watch(() => frame.moved, count)
  return { reach, problem, counting }
}
