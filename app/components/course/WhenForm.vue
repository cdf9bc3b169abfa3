<script setup lang="ts">
import { computed, ref } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import { WEEKDAYS } from '#core/time/say'
import type { ElapsedUnit, From, Weekday, Timing } from '#core/time/when'
import type { LocalDate } from '#core/time/zone'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'

/**
 * The *when* of a step, worded so that no kind can be taken for another.
 * `today` is what a date for everybody begins with. `entryDateId`: the date by
 * which people come into the course; it comes round with the course, never by itself.
 */
const when = defineModel<Timing>({ required: true })
const props = defineProps<{ isFirst: boolean, dateFields: { id: number, name: string }[], entryDateId: number | null, today: LocalDate }>()

const fromDefault = computed<From>(() => props.isFirst ? 'joining' : 'previous')
const KINDS = computed((): { value: Timing['kind'], name: string, make(): Timing }[] => [
  { value: 'at-once', name: 'at once', make: () => ({ kind: 'at-once' }) },
  { value: 'elapsed', name: 'after a time', make: () => ({ kind: 'elapsed', count: 1, unit: 'days', from: fromDefault.value }) },
  {
    value: 'calendar-day', name: 'on a calendar day, at a time',
    make: () => ({ kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }),
  },
  { value: 'months', name: 'after calendar months, at a time', make: () => ({ kind: 'months', count: 1, time: '08:00', from: 'joining' }) },
  { value: 'next-time', name: 'at the next time of day', make: () => ({ kind: 'next-time', time: '08:00' }) },
  { value: 'next-weekday', name: 'on the next day of the week', make: () => ({ kind: 'next-weekday', weekday: 1, time: '08:00' }) },
  { value: 'date', name: 'on one date for everyone', make: () => ({ kind: 'date', date: props.today, time: '08:00' }) },
  ...props.dateFields.length > 0 ? [{
    value: 'date-field' as const, name: 'by a personal date',
    make: (): Timing => ({ kind: 'date-field', fieldId: props.dateFields[0]!.id, days: 0, time: '08:00', everyMonths: 0 }),
  }] : [],
])
const UNITS: { value: ElapsedUnit, name: string }[] = [
  { value: 'minutes', name: 'minutes' }, { value: 'hours', name: 'hours' }, { value: 'days', name: 'days (24 hours)' },
  { value: 'weeks', name: 'weeks' },
]
const FROMS: { value: From, name: string }[] = [
  { value: 'previous', name: 'after the previous step' }, { value: 'joining', name: 'after joining' },
]
const DAY_FROMS: { value: From, name: string }[] = [
  { value: 'joining', name: 'the day of joining' }, { value: 'previous', name: 'the day of the previous step' },
]
const DAYS = WEEKDAYS.map((name, n) => ({ value: (n + 1) as Weekday, name }))
const RETURNS = [
  { value: 0, name: 'once' }, { value: 12, name: 'every year' }, { value: 6, name: 'every 6 months' }, { value: 3, name: 'every 3 months' },
  { value: 1, name: 'every month' },
]
const returns = computed(() => when.value.kind === 'date-field' && !RETURNS.some(({ value }) => when.value.kind === 'date-field'
  && value === when.value.everyMonths) ? [
    ...RETURNS, { value: when.value.everyMonths, name: `every ${when.value.everyMonths} months` },
  ] : RETURNS)

const REPEATS: { value: boolean, name: string }[] = [
  { value: false, name: 'the date itself included' }, { value: true, name: 'the date itself not included' },
]
const choose = (kind: Timing['kind']) => when.value = KINDS.value.find(({ value }) => value === kind)!.make()
const change = (part: Record<string, unknown>) => when.value = { ...when.value, ...part } as Timing

/* How far from a date */

type AwayUnit = 'days' | 'months' | 'years'
const distance = computed((): { count: number, unit: AwayUnit, side: 1 | -1 } => {
  const { days, months = 0 } = when.value.kind === 'date-field' ? when.value : { days: 0 }
  const side = days > 0 || months > 0 ? 1 : -1
  if (months === 0) {
    return { count: Math.abs(days), unit: unit.value === null || days !== 0 ? 'days' : unit.value, side: sideWanted.value ?? side }
  }
  return months % 12 === 0 && unit.value !== 'months'
    ? { count: Math.abs(months) / 12, unit: 'years', side }
    : { count: Math.abs(months), unit: 'months', side }
})
/** What was chosen while the number was 0, which tells neither. */
const unit = ref<AwayUnit | null>(null)
const sideWanted = ref<1 | -1 | null>(null)
const AWAY = computed((): {
  value: string, name: string,
}[] => ([-1, 1] as const).flatMap(side => (['days', 'months', 'years'] as const).map(unit => ({
  value: `${unit} ${side}`, name: `${distance.value.count === 1 ? unit.slice(0, -1) : unit} ${side < 0 ? 'before' : 'after'}`,
}))))
const MOST: Record<AwayUnit, number> = { days: 3650, months: 120, years: 10 }
function setDistance(to: Partial<{ count: number, unit: AwayUnit, side: 1 | -1 }>) {
  const next = { ...distance.value, ...to }
  ;[unit.value, sideWanted.value] = [next.unit, next.side]
  const signed = Math.min(next.count, MOST[next.unit]) * next.side
  const { months: _, ...rest } = when.value as Extract<Timing, { kind: 'date-field' }>
  when.value = {
    ...rest, days: next.unit === 'days' ? signed : 0,
    ...next.unit !== 'days' && signed !== 0 && { months: next.unit === 'years' ? signed * 12 : signed },
  }
}
function setAway(value: string) {
  const [unit, side] = value.split(' ')
  setDistance({ unit: unit as AwayUnit, side: Number(side) as 1 | -1 })
}
const comesRound = computed(() => when.value.kind === 'date-field' && when.value.fieldId !== props.entryDateId)
function setReturns(everyMonths: number) {
  const { fromFirst, ...rest } = when.value as Extract<Timing, { kind: 'date-field' }>
  when.value = { ...rest, everyMonths, ...everyMonths !== 0 && fromFirst && { fromFirst } }
}
function setFromFirst(fromFirst: boolean) {
  const { fromFirst: _, ...rest } = when.value as Extract<Timing, { kind: 'date-field' }>
  when.value = { ...rest, ...fromFirst && { fromFirst: true } }
}
</script>

<template>
  <div class="when-form">
    <Select
      :model-value="when.kind" :options="KINDS" option-label="name" option-value="value" aria-label="Kind of when"
      @update:model-value="choose" />
    <template v-if="when.kind === 'elapsed'">
      <InputNumber
        :model-value="when.count" :min="1" :max="10000" :allow-empty="false" show-buttons aria-label="How many"
        @update:model-value="count => change({ count: count ?? 1 })" />
      <Select
        :model-value="when.unit" :options="UNITS" option-label="name" option-value="value" aria-label="Unit"
        @update:model-value="unit => change({ unit })" />
      <Select
        v-if="!isFirst" :model-value="when.from" :options="FROMS" option-label="name" option-value="value" aria-label="Counted from"
        @update:model-value="from => change({ from })" />
      <span v-else class="second">after joining</span>
    </template>
    <template v-else-if="when.kind === 'calendar-day' || when.kind === 'months'">
      <InputNumber
        v-if="when.kind === 'calendar-day'" :model-value="when.day" :min="0" :max="3650" :allow-empty="false" show-buttons
        :suffix="when.day === 1 ? ' day' : ' days'" aria-label="Calendar days" @update:model-value="day => change({ day: day ?? 0 })" />
      <InputNumber
        v-else :model-value="when.count" :min="1" :max="120" :allow-empty="false" show-buttons
        :suffix="when.count === 1 ? ' month' : ' months'" aria-label="Calendar months"
        @update:model-value="count => change({ count: count ?? 1 })" />
      <span class="second">after</span>
      <Select
        v-if="!isFirst" :model-value="when.from" :options="DAY_FROMS" option-label="name" option-value="value"
        aria-label="Counted from the day of" @update:model-value="from => change({ from })" />
      <span v-else class="second">the day of joining</span>
    </template>
    <Select
      v-else-if="when.kind === 'next-weekday'" :model-value="when.weekday" :options="DAYS" option-label="name" option-value="value"
      aria-label="Day of the week" @update:model-value="weekday => change({ weekday })" />
    <DateField
      v-else-if="when.kind === 'date'" :model-value="when.date" input-id="when-date" label="Date"
      @update:model-value="date => change({ date })" />
    <template v-else-if="when.kind === 'date-field'">
      <InputNumber
        :model-value="distance.count" :min="0" :max="MOST[distance.unit]" :allow-empty="false" show-buttons
        aria-label="How far from the date" @update:model-value="count => setDistance({ count: count ?? 0 })" />
      <Select
        :model-value="`${distance.unit} ${distance.side}`" :options="AWAY" option-label="name" option-value="value"
        aria-label="Before or after the date" @update:model-value="setAway" />
      <Select
        :model-value="when.fieldId" :options="dateFields" option-label="name" option-value="id" aria-label="Which date"
        @update:model-value="fieldId => change({ fieldId })" />
      <template v-if="comesRound">
        <Select
          :model-value="when.everyMonths" :options="returns" option-label="name" option-value="value" aria-label="How often it returns"
          @update:model-value="setReturns" />
        <Select
          v-if="when.everyMonths" :model-value="when.fromFirst ?? false" :options="REPEATS" option-label="name" option-value="value"
          aria-label="Whether the date itself counts" @update:model-value="setFromFirst" />
      </template>
    </template>
    <template v-if="'time' in when">
      <span class="second">at</span>
      <TimeField :model-value="when.time" label="Clock time" @update:model-value="time => change({ time })" />
    </template>
  </div>
</template>

<style scoped>
.when-form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.when-form :deep(.p-select) { width: auto; }
.when-form :deep(.p-inputnumber) { width: 118px; }
.when-form :deep(.p-inputnumber-input) { width: 100%; }
</style>
