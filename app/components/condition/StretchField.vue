<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import type { Stretch } from '#core/audience/condition'
import { sayMoment } from '#core/time/say'
import { DAY, instantOf, localOf } from '#core/time/zone'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'

/** At any time, in the last so many days, before or since a date. Says the instant the last days begin at. */
const props = defineProps<{ label: string, anyTime: boolean }>()
const stretch = defineModel<Stretch | null>({ required: true })

const frame = useFrame()
const zone = computed(() => frame.zone)
const now = computed(() => frame.now)
const options = computed(() => [
  ...props.anyTime ? [{ value: 'any', name: 'at any time' }] : [],
  { value: 'last-days', name: 'in the last' }, { value: 'since', name: 'since' }, { value: 'before', name: 'before' },
])
function choose(kind: string) {
  const today = instantOf(localOf(now.value, zone.value).date, '00:00', zone.value)
  stretch.value = kind === 'any' ? null : kind === 'last-days' ? { kind, days: 30 } : { kind: kind as 'since' | 'before', at: today }
}
const date = computed({
  get: () => localOf(stretch.value && 'at' in stretch.value ? stretch.value.at : now.value, zone.value).date,
  set: (day) => {
    if (stretch.value && 'at' in stretch.value) stretch.value = { ...stretch.value, at: instantOf(day, '00:00', zone.value) }
  },
})
const days = computed({
  get: () => stretch.value?.kind === 'last-days' ? stretch.value.days : 0,
  set: days => stretch.value = { kind: 'last-days', days: days ?? 1 },
})
const begins = computed(() =>
  stretch.value?.kind === 'last-days' ? `since ${sayMoment(now.value - stretch.value.days * DAY, zone.value)}` : '')
</script>

<template>
  <span class="stretch">
    <Select
      :model-value="stretch?.kind ?? 'any'" :options="options" option-label="name" option-value="value" size="small"
      :aria-label="`${label}: when`" @update:model-value="choose" />
    <template v-if="stretch?.kind === 'last-days'">
      <InputNumber
        v-model="days" :min="0" :max="3650" :allow-empty="false" size="small" :aria-label="`${label}: how many days (24 hours)`"
        class="few" />
      <span class="second small" :title="begins">{{ days === 1 ? 'day' : 'days' }} (24 hours), {{ begins }}</span>
    </template>
    <DateField v-else-if="stretch" v-model="date" :input-id="`date-${label}`" :label="`${label}: date`" size="small" />
  </span>
</template>

<style scoped>
.stretch { display: inline-flex; align-items: center; gap: 6px; flex-wrap: wrap; }
.few :deep(input) { width: 62px; }
</style>
