/** What its owner has put away: out of sight in lists, and brought back from there. */
import { computed, ref } from 'vue'
import type { ThingKind } from '#core/things'
import { useFrame } from '~/stores/frame'

export function useArchive() {
  const frame = useFrame()
  const isArchived = (kind: ThingKind, id: number): boolean =>
    frame.frame?.archived.some(thing => thing.kind === kind && thing.id === id) ?? false
  return { isArchived }
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
