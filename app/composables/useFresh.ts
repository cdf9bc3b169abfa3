/** Data of a screen that follows the clock: loaded at once, and again whenever time has moved on. */
import { dequal } from 'dequal'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'
import { useFrame } from '~/stores/frame'
import { ApiProblem } from './useApi'
import { useNewest } from './useNewest'

export interface Fresh<Data> {
  /** Setting it says that this is newer than whatever is still being asked for: the answer to a change, say. */
  data: Ref<Data | null>
  problem: Ref<string | null>
  load(): Promise<void>
}

/** So many times as long as an answer and its drawing took is waited before asking again because time has moved on, but not for long. */
const REST = 4
const LONGEST_REST_MS = 1500
const SOON_MS = 100

/** `sources` are what the question depends on besides the clock. */
export function useFresh<Data>(ask: () => Promise<Data>, sources: () => unknown = () => null): Fresh<Data> {
  const frame = useFrame()
  const answered = ref(null) as Ref<Data | null>
  const problem = ref<string | null>(null)
  const newest = useNewest()
  let waiting: ReturnType<typeof setTimeout> | undefined
  let restUntil = 0
  let underWay = 0

  const data = computed({
    get: () => answered.value,
    set(newer) {
      // What is under way may have been answered before the change, and would undo it here. It is asked once more.
      newest()
      answered.value = newer
      if (underWay > 0) void load()
    },
  })

  async function load() {
    clearTimeout(waiting)
    waiting = undefined
    const isNewest = newest()
    const before = performance.now()
    restUntil = Number.POSITIVE_INFINITY
    underWay++
    try {
      const answer = await ask()
      if (isNewest()) {
        // Most often nothing has changed, and a long table need not be drawn again.
        if (!dequal(answer, answered.value)) answered.value = answer
        problem.value = null
      }
    }
    catch (error) {
      if (isNewest()) problem.value = error instanceof ApiProblem ? error.message : String(error)
    }
    finally {
      underWay--
    }
    // Drawing a long table takes its time, too.
    await nextTick()
    if (isNewest()) restUntil = performance.now() + Math.min(LONGEST_REST_MS, REST * (performance.now() - before))
  }

  /** Time moves on faster than a big workspace answers: the next question waits until some while after the last answer. */
  function loadSoon() {
    if (waiting !== undefined) return
    const rest = restUntil - performance.now()
    if (rest <= 0) void load()
    else waiting = setTimeout(() => {
      waiting = undefined
      loadSoon()
    }, Number.isFinite(rest) ? rest : SOON_MS)
  }

  onMounted(load)
  watch(() => frame.moved, loadSoon)
  watch(sources, load, { deep: true })
  onBeforeUnmount(() => clearTimeout(waiting))
  return { data, problem, load }
}
