<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import type { ElapsedUnit, From, When } from '#core/time/when'
import TimeField from '~/components/TimeField.vue'

/** The *when* of a step, worded so that no kind can be taken for another. */
const when = defineModel<When>({ required: true })
defineProps<{ isFirst: boolean }>()

const kinds: { value: When['kind'], name: string }[] = [
  { value: 'at-once', name: 'at once' },
  { value: 'elapsed', name: 'after so much time' },
  { value: 'calendar-day', name: 'on a calendar day, at a time' },
]
const units: { value: ElapsedUnit, name: string }[] = [
  { value: 'minutes', name: 'minutes' }, { value: 'hours', name: 'hours' }, { value: 'days', name: 'days of 24 hours' }, { value: 'weeks', name: 'weeks' },
]
const froms: { value: From, name: string }[] = [{ value: 'previous', name: 'after the step before' }, { value: 'joining', name: 'after joining' }]
const dayFroms: { value: From, name: string }[] = [{ value: 'joining', name: 'the day of joining' }, { value: 'previous', name: 'the day of the step before' }]

const kind = computed({
  get: () => when.value.kind,
  set(next: When['kind']) {
    if (next === 'at-once') when.value = { kind: 'at-once' }
    else if (next === 'elapsed') when.value = { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }
    else when.value = { kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }
  },
})
const change = (part: Partial<Extract<When, { kind: 'elapsed' }>> | Partial<Extract<When, { kind: 'calendar-day' }>>) => {
  when.value = { ...when.value, ...part } as When
}
</script>

<template>
  <div class="when-form">
    <Select v-model="kind" :options="kinds" option-label="name" option-value="value" aria-label="Kind of when" />
    <template v-if="when.kind === 'elapsed'">
      <InputNumber :model-value="when.count" :min="1" :max="10000" :allow-empty="false" show-buttons aria-label="How many" @update:model-value="count => change({ count: count ?? 1 })" />
      <Select :model-value="when.unit" :options="units" option-label="name" option-value="value" aria-label="Unit" @update:model-value="(unit: ElapsedUnit) => change({ unit })" />
      <Select v-if="!isFirst" :model-value="when.from" :options="froms" option-label="name" option-value="value" aria-label="Counted from" @update:model-value="(from: From) => change({ from })" />
      <span v-else class="second">after joining</span>
    </template>
    <template v-else-if="when.kind === 'calendar-day'">
      <InputNumber :model-value="when.day" :min="0" :max="3650" :allow-empty="false" show-buttons suffix=" days" aria-label="Calendar days" @update:model-value="day => change({ day: day ?? 0 })" />
      <span class="second">after</span>
      <Select v-if="!isFirst" :model-value="when.from" :options="dayFroms" option-label="name" option-value="value" aria-label="Counted from the day of" @update:model-value="(from: From) => change({ from })" />
      <span v-else class="second">the day of joining</span>
      <span class="second">at</span>
      <TimeField :model-value="when.time" label="Clock time" @update:model-value="time => change({ time })" />
    </template>
  </div>
</template>

<style scoped>
.when-form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.when-form :deep(.p-select) { width: auto; }
.when-form :deep(.p-inputnumber) { width: 108px; }
.when-form :deep(.p-inputnumber-input) { width: 100%; }
</style>
