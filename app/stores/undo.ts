/** What was done here lately and can be undone with one click: told as it is done, and undone by a button or a key. */
import { dequal } from 'dequal'
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Mode } from '#core/views/frame'
import { ApiProblem } from '~/composables/useApi'
import { useFrame } from './frame'

export interface Doing {
  /** A sentence: what was done. */
  said: string
  /** Puts back what was there before; throws where it has been changed since. */
  undo: () => Promise<unknown>
  /** What undoing does not bring back, where there is such a thing. */
  except?: string
}

/** So many are remembered, the newest last. */
const MOST = 20

export const useUndo = defineStore('undo', () => {
  const frame = useFrame()
  /** What is done in one workspace is undone there. */
  const doings = shallowRef<(Doing & { id: number, mode: Mode })[]>([])
  const latest = shallowRef<Doing & { id: number } | null>(null)
  let lastId = 0

  const here = computed(() => doings.value.filter(({ mode }) => mode === frame.mode))

  function did(doing: Doing): void {
    doings.value = [...doings.value, { ...doing, id: ++lastId, mode: frame.mode }].slice(-MOST)
    latest.value = doings.value.at(-1)!
  }

  /**
   * Undoes that one, or the last; null where there is none. It is forgotten first, so that it cannot be undone twice; where the server
   * could not be asked it can be tried again.
   */
  async function undo(id = here.value.at(-1)?.id): Promise<Doing & { id: number } | null> {
    const doing = here.value.find(one => one.id === id)
    if (!doing) return null
    doings.value = doings.value.filter(one => one !== doing)
    try {
      await doing.undo()
    }
    catch (error) {
      if (error instanceof ApiProblem) doings.value = [...doings.value, doing]
      throw error
    }
    await frame.changed()
    frame.moved++
    return doing
  }

  const canUndo = (id: number): boolean => here.value.some(one => one.id === id)

  return { latest, did, undo, canUndo }
})

/** For `undo`: calls `put`, but only where `now` still says what was saved. */
export async function putBack<Value>(now: () => Promise<Value | null>, saved: Value, put: () => Promise<unknown>): Promise<void> {
  if (!dequal(await now(), saved)) throw new Error('It has been changed since, so nothing was undone.')
  await put()
}
