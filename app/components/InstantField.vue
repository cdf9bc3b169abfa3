<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Checkbox from 'primevue/checkbox'
import { sayZone } from '#core/time/say'
import { addDays, instantOf, localOf, type Instant } from '#core/time/zone'
import { useFrame } from '~/stores/frame'
import DateField from './DateField.vue'
import TimeField from './TimeField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A day and a time of the workspace's zone, or none. */
const instant = defineModel<Instant | null>({ required: true })
/** `ahead`: how many days from now it is until another day is chosen. */
const props = defineProps<{ inputId: string, label: string, none: string, ahead: number, problem?: string }>()
const frame = useFrame()
const zone = computed(() => frame.zone)
const date = ref('')
const time = ref('')
function show() {
  const local = localOf(instant.value ?? frame.now, zone.value)
  date.value = instant.value === null ? addDays(local.date, props.ahead) : local.date
  time.value = instant.value === null ? '20:00' : local.time
}
show()
watch(instant, (now) => {
  if (now !== null && now !== instantOf(date.value, time.value, zone.value)) show()
})
watch([date, time], () => {
  if (instant.value !== null) instant.value = instantOf(date.value, time.value, zone.value)
})
const is = computed({
  get: () => instant.value !== null,
  set: (on: boolean) => {
    // Counted from now, which may not have been known when this was drawn.
    show()
    instant.value = on ? instantOf(date.value, time.value, zone.value) : null
  },
})
</script>

<template>
  <div class="instant">
    <span class="tick"><Checkbox v-model="is" :input-id="inputId" binary /><label :for="inputId">{{ label }}</label></span>
    <template v-if="is">
      <DateField v-model="date" :input-id="`${inputId}-date`" :label="`${label}: the day`" size="small" />
      <TimeField v-model="time" :label="`${label}: the time`" size="small" />
      <span class="second small">{{ sayZone(zone) }}</span>
    </template>
    <span v-else class="second small">{{ none }}</span>
    <ProblemNote :of="problem" line />
  </div>
</template>

<style scoped>
.instant { display: flex; align-items: center; gap: 10px; flex-wrap: wrap; min-height: 36px; }
.tick { display: flex; align-items: center; gap: 8px; min-width: 128px; }
.problem { width: 100%; color: var(--p-porch-brick); font-size: 12.5px; }
</style>
