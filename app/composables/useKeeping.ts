/**
 * The form of one thing on a screen of its own, new or saved: what is typed, whether it differs, keeping it, deleting it, and no leaving it
 * by mistake.
 */
import { computed, ref, watch, type Ref } from 'vue'
import { navigateTo, onBeforeRouteLeave } from '#imports'
import { useToast } from 'primevue/usetoast'
import type { ThingKind } from '#core/things'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import { putBack, useUndo } from '~/stores/undo'
import { useAttempt } from './useAttempt'

interface Kept<Input> {
  /** Null while it is new. */
  id: number | null
  /** Where things of its kind stand. */
  screen: string
  /** Also as a word of a sentence. */
  noun: Extract<ThingKind, 'link' | 'segment' | 'rule'>
  /** What is saved, or how a new one begins; null until that is known. */
  saved: () => Input | null
  /** Asks anew what is saved. */
  load: () => Promise<void>
  /** Sends it away; the number it is kept under, or null where the server asks something back first. */
  send: (typed: Input) => Promise<number | null>
  /** Deletes it. */
  drop: (at: { id: number }) => Promise<void>
  /** Said once it is saved. */
  said?: (typed: Input) => string
}

const copy = <Input>(value: Input): Input => JSON.parse(JSON.stringify(value)) as Input

export function useKeeping<Input>({ id, screen, noun, saved, load, send, drop, said }: Kept<Input>) {
  const frame = useFrame()
  const toast = useToast()
  const ending = useEnding()
  const undo = useUndo()
  const { busy, problem, attempt } = useAttempt()
  const typed = ref(null) as Ref<Input | null>
  const beginning = ref('')
  const changed = computed(() => typed.value !== null && JSON.stringify(typed.value) !== beginning.value)
  let leaving = false

  watch(saved, (now) => {
    if (now === null) return
    // Counted anew: what is being typed stays.
    if (!changed.value) typed.value = copy(now)
    beginning.value = JSON.stringify(now)
  }, { immediate: true })

  async function save(): Promise<void> {
    const value = copy(typed.value!)
    let newId: number | null = null
    if (!await attempt(async () => newId = await send(value)) || newId === null) return
    const before = JSON.parse(beginning.value) as Input
    beginning.value = JSON.stringify(value)
    const summary = said?.(value) ?? `The ${noun} is saved`
    await Promise.all([load(), frame.changed()])
    if (id === null) {
      toast.add({ severity: 'success', summary, life: 5000 })
      await leaveFor(`${screen}/${newId}`)
      return
    }
    // What the server made of it, which is what it must still say when it is undone.
    const kept = copy(saved())
    undo.did({ said: summary, undo: () => putBack(async () => {
      await load()
      return copy(saved())
    }, kept, () => send(before)) })
  }

  /** `words` are those of the question asked first. */
  function remove(words: { header: string, message: string, acceptLabel: string }) {
    ending.ask({
      ...words, thing: { kind: noun, id: id! },
      accept: async () => {
        await drop({ id: id! })
        await frame.changed()
        await leaveFor(screen)
      },
    })
  }

  async function leaveFor(path: string) {
    leaving = true
    await navigateTo(path)
  }
  onBeforeRouteLeave(() => leaving || !changed.value || window.confirm(`This ${noun} has changes that are not saved. Leave without them?`))

  return { typed, changed, busy, problem, save, remove }
}
