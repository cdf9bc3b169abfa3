<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import { WEEKDAYS } from '#core/time/say'
import type { ElapsedUnit, From, Weekday, When } from '#core/time/when'
import type { LocalDate } from '#core/time/zone'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'

/** The *when* of a step, worded so that no kind can be taken for another. `today` is what a date for everybody begins with. */
const when = defineModel<When>({ required: true })
const props = defineProps<{ isFirst: boolean, dateFields: { id: number, name: string }[], today: LocalDate }>()

const fromDefault = computed<From>(() => props.isFirst ? 'joining' : 'previous')
const KINDS = computed((): { value: When['kind'], name: string, make(): When }[] => [
  { value: 'at-once', name: 'at once', make: () => ({ kind: 'at-once' }) },
  { value: 'elapsed', name: 'after so much time', make: () => ({ kind: 'elapsed', count: 1, unit: 'days', from: fromDefault.value }) },
  { value: 'calendar-day', name: 'on a calendar day, at a time', make: () => ({ kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }) },
  { value: 'months', name: 'after calendar months, at a time', make: () => ({ kind: 'months', count: 1, time: '08:00', from: 'joining' }) },
  { value: 'next-time', name: 'at the next such time of day', make: () => ({ kind: 'next-time', time: '08:00' }) },
  { value: 'next-weekday', name: 'on the next such day of the week', make: () => ({ kind: 'next-weekday', weekday: 1, time: '08:00' }) },
  { value: 'date', name: 'on one date, the same for everybody', make: () => ({ kind: 'date', date: props.today, time: '08:00' }) },
  ...props.dateFields.length > 0 ? [{ value: 'date-field' as const, name: 'by a date of the person', make: (): When => ({ kind: 'date-field', fieldId: props.dateFields[0]!.id, days: 0, time: '08:00', everyMonths: 0 }) }] : [],
])
const UNITS: { value: ElapsedUnit, name: string }[] = [
  { value: 'minutes', name: 'minutes' }, { value: 'hours', name: 'hours' }, { value: 'days', name: 'days of 24 hours' }, { value: 'weeks', name: 'weeks' },
]
const FROMS: { value: From, name: string }[] = [{ value: 'previous', name: 'after the step before' }, { value: 'joining', name: 'after joining' }]
const DAY_FROMS: { value: From, name: string }[] = [{ value: 'joining', name: 'the day of joining' }, { value: 'previous', name: 'the day of the step before' }]
const DAYS = WEEKDAYS.map((name, n) => ({ value: (n + 1) as Weekday, name }))
const SIDES = [{ value: -1, name: 'days before' }, { value: 1, name: 'days after' }]
const RETURNS = [{ value: 0, name: 'once' }, { value: 12, name: 'every year' }, { value: 6, name: 'every 6 months' }, { value: 3, name: 'every 3 months' }, { value: 1, name: 'every month' }]
const returns = computed(() => when.value.kind === 'date-field' && !RETURNS.some(({ value }) => when.value.kind === 'date-field' && value === when.value.everyMonths) ? [...RETURNS, { value: when.value.everyMonths, name: `every ${when.value.everyMonths} months` }] : RETURNS)

const choose = (kind: When['kind']) => when.value = KINDS.value.find(({ value }) => value === kind)!.make()
const change = (part: Record<string, unknown>) => when.value = { ...when.value, ...part } as When
const away = computed(() => when.value.kind === 'date-field' ? Math.abs(when.value.days) : 0)
const side = computed(() => when.value.kind === 'date-field' && when.value.days > 0 ? 1 : -1)
</script>

<template>
  <div class="when-form">
    <Select :model-value="when.kind" :options="KINDS" option-label="name" option-value="value" aria-label="Kind of when" @update:model-value="choose" />
    <template v-if="when.kind === 'elapsed'">
      <InputNumber :model-value="when.count" :min="1" :max="10000" :allow-empty="false" show-buttons aria-label="How many" @update:model-value="count => change({ count: count ?? 1 })" />
      <Select :model-value="when.unit" :options="UNITS" option-label="name" option-value="value" aria-label="Unit" @update:model-value="unit => change({ unit })" />
      <Select v-if="!isFirst" :model-value="when.from" :options="FROMS" option-label="name" option-value="value" aria-label="Counted from" @update:model-value="from => change({ from })" />
      <span v-else class="second">after joining</span>
    </template>
    <template v-else-if="when.kind === 'calendar-day' || when.kind === 'months'">
      <InputNumber v-if="when.kind === 'calendar-day'" :model-value="when.day" :min="0" :max="3650" :allow-empty="false" show-buttons :suffix="when.day === 1 ? ' day' : ' days'" aria-label="Calendar days" @update:model-value="day => change({ day: day ?? 0 })" />
      <InputNumber v-else :model-value="when.count" :min="1" :max="120" :allow-empty="false" show-buttons :suffix="when.count === 1 ? ' month' : ' months'" aria-label="Calendar months" @update:model-value="count => change({ count: count ?? 1 })" />
      <span class="second">after</span>
      <Select v-if="!isFirst" :model-value="when.from" :options="DAY_FROMS" option-label="name" option-value="value" aria-label="Counted from the day of" @update:model-value="from => change({ from })" />
      <span v-else class="second">the day of joining</span>
    </template>
    <Select v-else-if="when.kind === 'next-weekday'" :model-value="when.weekday" :options="DAYS" option-label="name" option-value="value" aria-label="Day of the week" @update:model-value="weekday => change({ weekday })" />
    <DateField v-else-if="when.kind === 'date'" :model-value="when.date" input-id="when-date" label="Date" @update:model-value="date => change({ date })" />
    <template v-else-if="when.kind === 'date-field'">
      <InputNumber :model-value="away" :min="0" :max="3650" :allow-empty="false" show-buttons aria-label="Days from the date" @update:model-value="days => change({ days: (days ?? 0) * side })" />
      <Select :model-value="side" :options="SIDES" option-label="name" option-value="value" aria-label="Before or after the date" @update:model-value="now => change({ days: away * now })" />
      <Select :model-value="when.fieldId" :options="dateFields" option-label="name" option-value="id" aria-label="Which date" @update:model-value="fieldId => change({ fieldId })" />
      <Select :model-value="when.everyMonths" :options="returns" option-label="name" option-value="value" aria-label="How often it returns" @update:model-value="everyMonths => change({ everyMonths })" />
    </template>
    <template v-if="'time' in when"><span class="second">at</span><TimeField :model-value="when.time" label="Clock time" @update:model-value="time => change({ time })" /></template>
  </div>
</template>

<style scoped>
.when-form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.when-form :deep(.p-select) { width: auto; }
.when-form :deep(.p-inputnumber) { width: 118px; }
.when-form :deep(.p-inputnumber-input) { width: 100%; }
</style>
