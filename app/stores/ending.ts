/** A thing that is about to be deleted: what that would mean is told and asked in one dialog, wherever it was said. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Thing } from '#core/things'

export interface Ending {
  thing: Thing
  header: string
  /** What becomes of it and of people's records, whatever names it. */
  message: string
  acceptLabel: string
  /** Deletes it. What it throws is told in the dialog, which stays. */
  accept: () => Promise<void>
}

export const useEnding = defineStore('ending', () => {
  const asked = shallowRef<Ending | null>(null)
  return { asked, ask: (ending: Ending) => { asked.value = ending } }
})
