/** A draft that saves itself a moment after the last change, and never loses what was typed. */
import { ref, watch, type Ref } from 'vue'
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { onBeforeRouteLeave } from '#imports'
import { makeSaver, type Saver } from './saver'
import { ApiProblem } from './useApi'
import { tellAll } from './useTellers'

export interface Draft extends Pick<Saver<ApiProblem>, 'state' | 'problem' | 'revision' | 'flush' | 'changedElsewhere' | 'keepMine'> {
  /** What stands here is given up for what stands there. */
  takeTheirs(): void
}

/**
 * `value` is watched deeply; `save` sends it away with the revision it was made from, and tells the new one. The first value comes with its
 * own, by `revision`.
 */
export function useDraft<Value>(value: Ref<Value | null>, save: (value: Value, seen: string | undefined) => Promise<string>): Draft {
  const wait = ref(0)
  let act = () => {}
  const timer = useTimeoutFn(() => act(), wait, { immediate: false })
  const saver = makeSaver<ApiProblem>({
    text: () => value.value === null ? null : JSON.stringify(value.value),
    save: (text, seen) => save(JSON.parse(text) as Value, seen),
    problemOf: error => error instanceof ApiProblem ? error : new ApiProblem(0, String(error), []),
    later(ms, what) {
      act = what
      wait.value = ms
      timer.start()
    },
    never: timer.stop,
  })
  const { state, problem, revision, changedElsewhere, keepMine } = saver
  function flush() {
    tellAll()
    return saver.flush()
  }

  watch(value, (_, before) => before === null ? saver.begin() : saver.changed(), { deep: true })

  onBeforeRouteLeave(async () => {
    if (await flush() || (state.value !== 'failed' && state.value !== 'elsewhere')) return true
    return window.confirm(`The last changes could not be saved: ${problem.value?.message} Leave without them?`)
  })
  useEventListener(window, 'beforeunload', (event) => {
    tellAll()
    if (saver.unsaved()) event.preventDefault()
  })

  function takeTheirs() {
    saver.giveUp()
    window.location.reload()
  }

  return { state, problem, flush, revision, changedElsewhere, keepMine, takeTheirs }
}
