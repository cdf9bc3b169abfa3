/** Data of a screen that follows the clock: loaded at once, and again whenever time has moved on. */
import { onMounted, ref, watch, type Ref } from 'vue'
import { useFrame } from '~/stores/frame'
import { ApiProblem } from './useApi'

export interface Fresh<Data> {
  data: Ref<Data | null>
  problem: Ref<string | null>
  load(): Promise<void>
}

/** `sources` are what the question depends on besides the clock. */
export function useFresh<Data>(ask: () => Promise<Data>, sources: () => unknown = () => null): Fresh<Data> {
  const frame = useFrame()
  const data = ref(null) as Ref<Data | null>
  const problem = ref<string | null>(null)
  let latest = 0

  async function load() {
    const mine = ++latest
    try {
      const answer = await ask()
      // A slow answer to an older question must not overwrite a newer one.
      if (mine === latest) {
        data.value = answer
        problem.value = null
      }
    }
    catch (error) {
      if (mine === latest) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
  }

  onMounted(load)
  watch(() => frame.moved, load)
  watch(sources, load, { deep: true })
  return { data, problem, load }
}
