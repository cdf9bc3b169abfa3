/**
 * Whom a condition holds for, counted a moment after each change and whenever something has happened; an answer to an older question is
 * dropped. It is `counting` while what is counted is not what the condition says.
 */
import { ref, watch, type Ref } from 'vue'
import { useTimeoutFn } from '@vueuse/core'
import type { Condition } from '#core/audience/condition'
import type { AudienceMore, AudienceView } from '#core/views/audience'
import { api, ApiProblem } from './useApi'
import { useNewest } from './useNewest'
import { useFrame } from '~/stores/frame'

const QUIET_MS = 200
let askers = 0

export function useAudience(condition: () => Condition | null, segmentId: () => number | null) {
  const frame = useFrame()
  const asker = `audience-${++askers}-${Math.floor(performance.timeOrigin)}`
  const view: Ref<AudienceView | null> = ref(null)
  const more: Ref<AudienceMore | null> = ref(null)
  const problem = ref<string | null>(null)
  const counting = ref(false)
  const newest = useNewest()

  async function count() {
    const isNewest = newest()
    const asked = condition()
    if (!asked) return
    const body = { condition: asked, segmentId: segmentId() }
    try {
      const answer = await api('POST /audience', { body, asker })
      if (!isNewest()) return
      view.value = answer
      more.value = null
      counting.value = false
      problem.value = null
      const rest = await api('POST /audience/more', { body, asker: `${asker}-more` })
      if (isNewest()) more.value = rest
    }
    catch (error) {
      if (isNewest()) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
    finally {
      if (isNewest()) counting.value = false
    }
  }

  const soon = useTimeoutFn(count, QUIET_MS, { immediate: false })
  watch(() => JSON.stringify(condition()), () => {
    // What stands there is out of date from the first letter on.
    counting.value = true
    newest()
    soon.start()
  }, { immediate: true })
  watch(() => frame.moved, count)
  return { view, more, problem, counting }
}
