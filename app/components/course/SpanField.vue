<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import type { Span } from '#core/sequence/program'

/** So much time on a stopwatch. */
const span = defineModel<Span>({ required: true })
defineProps<{ label: string }>()
const UNITS: { value: Span['unit'], name: string }[] = [
  { value: 'minutes', name: 'minutes' }, { value: 'hours', name: 'hours' }, { value: 'days', name: 'days (24 hours)' },
  { value: 'weeks', name: 'weeks' },
]
</script>

<template>
  <span class="span">
    <InputNumber
      :model-value="span.count" :min="1" :max="10000" :allow-empty="false" size="small" :aria-label="`${label}: how many`"
      @update:model-value="count => span = { ...span, count: count ?? 1 }" />
    <Select
      :model-value="span.unit" :options="UNITS" option-label="name" option-value="value" size="small" :aria-label="`${label}: unit`"
      @update:model-value="unit => span = { ...span, unit }" />
  </span>
</template>

<style scoped>
.span { display: inline-flex; gap: 6px; align-items: center; }
.span :deep(.p-inputnumber-input) { width: 70px; }
</style>
