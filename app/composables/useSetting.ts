/** One part of the settings as it is typed: it follows what is saved, until something else is typed. */
import { dequal } from 'dequal'
import { computed, ref, watch, type Ref } from 'vue'
import { putBack, useUndo } from '~/stores/undo'
import { useAttempt } from './useAttempt'
import { useFresh } from './useFresh'

interface Setting<Told, Typed> {
  ask: () => Promise<Told>
  /** Takes what is typed out of what is told. */
  pick: (told: Told) => Typed
  keep: (typed: Typed) => Promise<Told>
  /** A sentence: that it is saved. */
  said: string
}

export function useSetting<Told, Typed>({ ask, pick, keep, said }: Setting<Told, Typed>) {
  const undo = useUndo()
  const { data: told, problem: loading } = useFresh(ask)
  const typed = ref(null) as Ref<Typed | null>
  const same = (one: Told | null, other: Typed | null) => one !== null && dequal(pick(one), other)
  watch(told, (now, before) => {
    // A copy: what is told may not be typed over.
    if (now !== null && (typed.value === null || same(before, typed.value))) typed.value = JSON.parse(JSON.stringify(pick(now))) as Typed
  })
  const changed = computed(() => typed.value !== null && !same(told.value, typed.value))
  const { busy, problem, attempt } = useAttempt()
  const save = () => attempt(async () => {
    const before = pick(told.value!)
    const after = await keep(typed.value!)
    told.value = after
    undo.did({ said, undo: () => putBack(async () => pick(await ask()), pick(after), () => keep(before)) })
  })
  return { told, loading, typed, changed, busy, problem, save }
}
