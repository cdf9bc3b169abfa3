/** What its owner has put away: out of sight in lists, and brought back from there. */
import { computed, ref } from 'vue'
import type { Thing, ThingKind } from '#core/things'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import { api } from './useApi'

export function useArchive() {
  const frame = useFrame()
  const undo = useUndo()
  const isArchived = (kind: ThingKind, id: number): boolean =>
    frame.frame?.archived.some(thing => thing.kind === kind && thing.id === id) ?? false
  /** Archives it, or brings it back, which can be undone. */
  async function archive(thing: Thing, does: 'PUT' | 'DELETE') {
    await api(`${does} /archived/:kind/:id`, { at: { ...thing } })
    undo.did({
      said: does === 'DELETE' ? 'Back in its list.' : 'Archived. Find it under “Archived” in its list.',
      undo: () => api(`${does === 'PUT' ? 'DELETE' : 'PUT'} /archived/:kind/:id`, { at: { ...thing } }),
    })
    await frame.changed()
  }
  return { isArchived, archive }
}

/** The rows of a list: those to work with, or, once they are asked for, those that are put away. */
export function useShelf<Row extends { id: number }>(kind: ThingKind, rows: () => readonly Row[] | null) {
  const { isArchived } = useArchive()
  const away = computed(() => (rows() ?? []).filter(({ id }) => isArchived(kind, id)))
  const wanted = ref(false)
  const showsAway = computed({
    get: () => wanted.value && away.value.length > 0,
    set: (on: boolean) => wanted.value = on,
  })
  const shown = computed(() => showsAway.value ? away.value : (rows() ?? []).filter(({ id }) => !isArchived(kind, id)))
  return { shown, away, showsAway }
}
