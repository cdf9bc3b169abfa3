/** What surrounds every screen: which workspace is shown, its clock, and the counts on the wall. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { ClockView, FrameView, Mode, RailView } from '#core/views/frame'
import { api } from '~/composables/useApi'
import { keepMode, mode } from '~/stores/mode'

/** Where one of them is another, something has happened. */
const MARKS = ['backlog', 'eventId', 'mailId'] as const

export const useFrame = defineStore('frame', () => {
  const frame = ref<FrameView | null>(null)
  const rail = ref<RailView | null>(null)
  /** Where the clock stood as this workspace was entered. */
  const entered = ref<ClockView | null>(null)
  /** Counts up whenever something may have changed by time passing or by what others do: screens load anew. */
  const moved = ref(0)

  // Asked for before the first screen is drawn; a clock that cannot be asked is taken to be this computer's, until it can.
  const now = computed(() => rail.value?.now ?? entered.value?.now ?? Date.now())
  const zone = computed(() =>
    frame.value?.workspace.zone ?? rail.value?.zone ?? entered.value?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone)

  /** Finds out what no screen of that workspace can be drawn without, where it is not known yet. */
  async function enter(next: Mode, clock?: ClockView) {
    entered.value = clock ?? await api('GET /clock', { mode: next }).catch(() => null)
  }

  async function loadFrame() {
    frame.value = await api('GET /frame')
  }

  /** Asks where the clock is; tells the screens if it moved, or if anything happened. */
  async function loadRail() {
    const before = rail.value
    const at = before ?? entered.value
    const after = await api('GET /rail')
    rail.value = after
    // The first screen may have been answered before something happened that the first rail already knows of.
    const happened = at !== null && MARKS.some(mark => after[mark] !== at[mark])
    if (happened || before && (after.now !== before.now || after.movingTo !== before.movingTo)) {
      if (after.movingTo === null || mode.value === 'live') {
        moved.value++
        await loadFrame()
      }
    }
  }

  /** After something was changed on this screen. */
  async function changed() {
    await Promise.all([loadFrame(), loadRail()])
  }

  async function show(next: Mode) {
    await enter(next)
    keepMode(next)
    rail.value = null
    frame.value = null
  }

  return { mode, frame, rail, moved, now, zone, enter, loadFrame, loadRail, changed, show }
})
