<script setup lang="ts">
import { computed, ref, useId } from 'vue'
import { ALWAYS, daily, SLOTS_A_DAY, type WeekHours } from '#core/time/hours'
import { sayHours, WEEKDAYS } from '#core/time/say'

/**
 * A week of half-hours, painted with the pointer or by arrow keys and space. `within` are hours that it cannot go beyond: outside them
 * nothing is open, whatever is painted.
 */
const hours = defineModel<WeekHours>({ required: true })
const props = withDefaults(defineProps<{ label: string, within?: WeekHours }>(), { within: ALWAYS })

const id = useId()
const rows = WEEKDAYS.map((name, day) => ({ name, day, slots: Array.from({ length: SLOTS_A_DAY }, (_, n) => day * SLOTS_A_DAY + n) }))
const timeOf = (slot: number) => `${String(Math.floor(slot % SLOTS_A_DAY / 2)).padStart(2, '0')}:${slot % 2 ? '30' : '00'}`
const isOpen = (slot: number) => hours.value[slot] === '1'
const isBarred = (slot: number) => props.within[slot] === '0'

/** Everything between two half-hours, as a rectangle of days and times, becomes what the first turned into. */
function paint(before: WeekHours, from: number, to: number, open: boolean) {
  const [days, times] = [[from, to].map(slot => Math.floor(slot / SLOTS_A_DAY)), [from, to].map(slot => slot % SLOTS_A_DAY)]
  hours.value = [...before].map((slot, n) => {
    const [day, time] = [Math.floor(n / SLOTS_A_DAY), n % SLOTS_A_DAY]
    return day >= Math.min(...days) && day <= Math.max(...days) && time >= Math.min(...times) && time <= Math.max(...times)
      ? (open ? '1' : '0')
      : slot
  }).join('')
}
const painting = ref<{ before: WeekHours, from: number, open: boolean } | null>(null)
const slotAt = (event: PointerEvent) => {
  const cell = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>(`[data-week="${id}"]`)
  return cell ? Number(cell.dataset.slot) : null
}
function begin(event: PointerEvent) {
  const slot = slotAt(event)
  if (slot === null) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  cursor.value = slot
  painting.value = { before: hours.value, from: slot, open: !isOpen(slot) }
  paint(hours.value, slot, slot, painting.value.open)
}
function goOn(event: PointerEvent) {
  const slot = painting.value && slotAt(event)
  if (painting.value && slot !== null) paint(painting.value.before, painting.value.from, slot, painting.value.open)
}

const cursor = ref(8 * 2)
const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -SLOTS_A_DAY, ArrowDown: SLOTS_A_DAY }
/** Arrows walk; with shift they paint what they walk over like the half-hour they come from. */
function key(event: KeyboardEvent) {
  const step = STEPS[event.key]
  if (step !== undefined) {
    const next = cursor.value + step
    if (next >= 0 && next < 7 * SLOTS_A_DAY) {
      if (event.shiftKey) paint(hours.value, next, next, isOpen(cursor.value))
      cursor.value = next
    }
  }
  else if (event.key === ' ' || event.key === 'Enter') paint(hours.value, cursor.value, cursor.value, !isOpen(cursor.value))
  else return
  event.preventDefault()
}

const READY: { name: string, hours: WeekHours }[] = [
  { name: 'always', hours: ALWAYS }, { name: 'Monday to Friday, 08:00–18:00', hours: daily([1, 2, 3, 4, 5], '08:00', '18:00') },
  { name: 'every day, 07:30–21:00', hours: daily([1, 2, 3, 4, 5, 6, 7], '07:30', '21:00') },
]
const said = computed(() => sayHours(hours.value))
</script>

<template>
  <div class="week">
    <p class="ready small"><span class="second">Begin with</span> <template v-for="(one, n) in READY" :key="one.name"><template
      v-if="n > 0">, </template><button
      type="button" class="link-button small" @click="hours = one.hours">{{ one.name }}</button></template></p>
    <div
      class="grid" role="grid" tabindex="0" :aria-label="`${label}: arrows walk, space opens or closes, shift and an arrow paint`"
      :aria-activedescendant="`${id}-${cursor}`"
      @keydown="key" @pointerdown.prevent="begin" @pointermove="goOn" @pointerup="painting = null" @pointercancel="painting = null"
    >
      <div class="day hours" aria-hidden="true">
        <span />
        <span v-for="hour in 8" :key="hour" class="small second mark">{{ String((hour - 1) * 3).padStart(2, '0') }}</span>
      </div>
      <div v-for="row in rows" :key="row.day" class="day" role="row">
        <span class="small" role="rowheader">{{ row.name.slice(0, 3) }}</span>
        <span
          v-for="slot in row.slots" :id="`${id}-${slot}`" :key="slot" role="gridcell" class="slot" :data-week="id" :data-slot="slot"
          :aria-selected="isOpen(slot)" :aria-label="`${row.name} ${timeOf(slot)}`"
          :class="{ open: isOpen(slot), barred: isBarred(slot), hour: slot % 2 === 0, at: slot === cursor }"
        />
      </div>
    </div>
    <p class="second small" aria-live="polite">{{ said }}</p>
  </div>
</template>

<style scoped>
.week { display: grid; gap: 6px; }
.grid { display: grid; gap: 2px; touch-action: none; user-select: none; cursor: cell; border-radius: 6px; }
.day { display: grid; grid-template-columns: 34px repeat(48, minmax(0, 1fr)); align-items: center; }
.hours { height: 15px; }
.mark { grid-column: span 6; }
.slot { height: 20px; background: var(--p-porch-rail); border-left: 1px solid transparent; }
.slot.hour { border-left-color: var(--p-porch-paper); }
.slot.open { background: var(--p-porch-spruce); }
/* Outside the hours of the workspace: shown, and never open. */
.slot.barred { background: repeating-linear-gradient(135deg, var(--p-porch-line) 0 2px, var(--p-porch-rail) 2px 5px); }
.slot.open.barred { background: repeating-linear-gradient(135deg, var(--p-porch-line) 0 2px, var(--p-porch-paper) 2px 5px); }
.grid:focus-visible .slot.at { outline: 2px solid var(--p-porch-lamp); outline-offset: -1px; }
</style>
