/** One part of the settings as it is typed: it follows what is saved, until something else is typed. */
import { computed, ref, watch, type Ref } from 'vue'
import { api } from './useApi'
import { useAttempt } from './useAttempt'
import { useFresh } from './useFresh'

/** Asked for and saved at `path`; `pick` takes what is typed out of what is told. */
export function useSetting<Told, Typed>(path: string, pick: (told: Told) => Typed) {
  const { data: told, problem: loading } = useFresh(() => api<Told>(path))
  const typed = ref(null) as Ref<Typed | null>
  const same = (one: Told | null, other: Typed | null) => one !== null && JSON.stringify(pick(one)) === JSON.stringify(other)
  watch(told, (now, before) => {
    // A copy: what is told may not be typed over.
    if (now !== null && (typed.value === null || same(before, typed.value))) typed.value = JSON.parse(JSON.stringify(pick(now))) as Typed
  })
  const changed = computed(() => typed.value !== null && !same(told.value, typed.value))
  const { busy, problem, attempt } = useAttempt()
  const save = () => attempt(async () => {
    told.value = await api<Told>(path, { method: 'PUT', body: typed.value })
  })
  return { told, loading, typed, changed, busy, problem, save }
}
