/** Whom a condition holds for, counted anew a moment after each change; an answer to an older question is dropped. */
import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { useTimeoutFn } from '@vueuse/core'
import type { Condition } from '#core/audience/condition'
import type { AudienceMore, AudienceView } from '#core/views/audience'
import { api, ApiProblem } from './useApi'
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
  let latest = 0

  async function count() {
    const mine = ++latest
    const asked = condition()
    if (!asked) return
    const body = { condition: asked, segmentId: segmentId() }
    counting.value = true
    try {
      const answer = await api('POST /audience', { body, asker })
      if (mine !== latest) return
      view.value = answer
      more.value = null
      counting.value = false
      problem.value = null
      const rest = await api('POST /audience/more', { body, asker: `${asker}-more` })
      if (mine === latest) more.value = rest
    }
    catch (error) {
      if (mine === latest) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
    finally {
      if (mine === latest) counting.value = false
    }
  }

  const soon = useTimeoutFn(count, QUIET_MS, { immediate: false })
  watch(() => JSON.stringify(condition()), () => {
    // What stands there is out of date from the first letter on.
    counting.value = true
    latest++
    soon.start()
  }, { immediate: true })
  watch(() => frame.moved, count)
  onBeforeUnmount(() => latest++)
  return { view, more, problem, counting }
}
