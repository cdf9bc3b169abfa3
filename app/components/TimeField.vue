<script setup lang="ts">
import { computed } from 'vue'
import DatePicker from 'primevue/datepicker'
import type { LocalTime } from '#core/time/zone'

/** A clock time of 24 hours: `08:00`. It can be typed, too. */
const time = defineModel<LocalTime>({ required: true })
defineProps<{ inputId?: string, label?: string, size?: 'small' }>()

const two = (n: number) => String(n).padStart(2, '0')
// Only the hands of this clock are ever read; its day is any day without a change of the clocks.
const picked = computed({
  get: () => {
    const [hour, minute] = time.value.split(':').map(Number)
    return new Date(2026, 0, 15, hour, minute)
  },
  set: (value: unknown) => {
    if (value instanceof Date) time.value = `${two(value.getHours())}:${two(value.getMinutes())}`
  },
})
</script>

<template>
  <DatePicker v-model="picked" :input-id="inputId" :aria-label="label" :size="size" time-only hour-format="24" :step-minute="5" class="time-field" />
</template>

<style scoped>
.time-field :deep(input) { width: 70px; }
</style>
