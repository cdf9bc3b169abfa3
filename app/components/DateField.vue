<script setup lang="ts">
import { computed } from 'vue'
import DatePicker from 'primevue/datepicker'
import type { LocalDate } from '#core/time/zone'

/** A date of the calendar, shown so that day and month cannot be mistaken: `Thu 26 Nov 2026`. */
const date = defineModel<LocalDate>({ required: true })
defineProps<{ inputId: string, label?: string, size?: 'small' }>()

const two = (n: number) => String(n).padStart(2, '0')
// The picker works with the browser's own midnight; only its date is ever read.
const picked = computed({
  get: () => {
    const [year, month, day] = date.value.split('-').map(Number)
    return new Date(year!, month! - 1, day)
  },
  set: (value: unknown) => {
    if (value instanceof Date) date.value = `${value.getFullYear()}-${two(value.getMonth() + 1)}-${two(value.getDate())}`
  },
})
</script>

<template>
  <DatePicker v-model="picked" :input-id="inputId" :aria-label="label" :size="size" date-format="D d M yy" :first-day-of-week="1" :manual-input="false" class="date-field" />
</template>

<style scoped>
.date-field :deep(input) { width: 146px; cursor: pointer; }
</style>
