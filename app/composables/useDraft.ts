/** A draft that saves itself a moment after the last change, and never loses what was typed. */
import { ref, watch, type Ref } from 'vue'
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { onBeforeRouteLeave } from '#imports'
import { ApiProblem } from './useApi'

/** `elsewhere`: it was changed in another window, and waits for a word about which of the two counts. */
export type SaveState = 'saved' | 'typing' | 'saving' | 'failed' | 'elsewhere'

const QUIET_MS = 500
const RETRY_MS = 3000

export interface Draft {
  state: Ref<SaveState>
  problem: Ref<ApiProblem | null>
  /** Saves now, if there is anything to save; false if it could not. */
  flush(): Promise<boolean>
  /** The revision that stands here, for what is done with it as it is seen. */
  revision: Ref<string | undefined>
  /** Says that it was changed elsewhere, where something else than saving has found that out. */
  changedElsewhere(): void
  /** What stands here takes the place of what stands there. */
  keepMine(): Promise<void>
  /** What stands here is given up for what stands there. */
  takeTheirs(): void
}

/**
 * `value` is watched deeply; `save` sends it away with the revision it was made from, and tells the new one. The first value comes with its
 * own, by `revision`.
 */
export function useDraft<Value>(value: Ref<Value | null>, save: (value: Value, seen: string | undefined) => Promise<string>): Draft {
  const state = ref<SaveState>('saved')
  const problem = ref<ApiProblem | null>(null)
  let underWay: Promise<boolean> | null = null
  let savedAs: string | null = null
  const revision = ref<string>()

  const wait = ref(QUIET_MS)
  const next = useTimeoutFn(() => void flush(), wait, { immediate: false })
  const again = (ms: number) => {
    wait.value = ms
    next.start()
  }

  async function flush(): Promise<boolean> {
    next.stop()
    if (underWay) await underWay
    const text = JSON.stringify(value.value)
    if (value.value === null || text === savedAs) return state.value !== 'failed' && state.value !== 'elsewhere'
    // Nothing is sent while it is open which of the two counts.
    if (state.value === 'elsewhere') return false
    state.value = 'saving'
    underWay = save(JSON.parse(text) as Value, revision.value).then((now) => {
      revision.value = now
      savedAs = text
      problem.value = null
      state.value = JSON.stringify(value.value) === text ? 'saved' : 'typing'
      return true
    }, (error: unknown) => {
      problem.value = error instanceof ApiProblem ? error : new ApiProblem(0, String(error), [])
      state.value = problem.value.status === 412 ? 'elsewhere' : 'failed'
      // The server was away, not the input wrong: try again by itself.
      if (problem.value.status === 0 || problem.value.status >= 500) again(RETRY_MS)
      return false
    })
    const fine = await underWay
    underWay = null
    return fine
  }

  watch(value, (next, before) => {
    if (before === null) {
      savedAs = JSON.stringify(next)
      return
    }
    if (JSON.stringify(next) === savedAs) return
    if (state.value === 'elsewhere') return
    state.value = 'typing'
    again(QUIET_MS)
  }, { deep: true })

  onBeforeRouteLeave(async () => {
    if (await flush() || (state.value !== 'failed' && state.value !== 'elsewhere')) return true
    return window.confirm(`The last changes could not be saved: ${problem.value?.message} Leave without them?`)
  })
  useEventListener(window, 'beforeunload', (event) => {
    if (state.value !== 'saved') event.preventDefault()
  })

  function changedElsewhere() {
    state.value = 'elsewhere'
  }
  async function keepMine() {
    revision.value = undefined
    savedAs = null
    state.value = 'typing'
    await flush()
  }
  function takeTheirs() {
    state.value = 'saved'
    window.location.reload()
  }

  return { state, problem, flush, revision, changedElsewhere, keepMine, takeTheirs }
}
