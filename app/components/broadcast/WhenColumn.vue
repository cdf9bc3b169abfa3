<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import { MOST_SPREAD_HOURS, type BroadcastDraft } from '#core/broadcast/draft'
import type { BroadcastWhen } from '#core/broadcast/when'
import { sayInterval, sayNumber, sayPeople, sayRate } from '#core/stats/say'
import { sayLength, sayMoment, sayZone } from '#core/time/say'
import { addDays, localOf, MINUTE } from '#core/time/zone'
import type { BroadcastReach } from '#core/views/broadcast'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'
import SelectField from '~/components/SelectField.vue'
import TimeField from '~/components/TimeField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** When it leaves: at once, or at a time of the workspace’s clock or of every reader’s own. */
const draft = defineModel<BroadcastDraft>({ required: true })
const props = defineProps<{ reach: BroadcastReach | null, problem: string | null, zone: string }>()
const frame = useFrame()

type Way = 'now' | 'workspace' | 'reader'
const WAYS: { value: Way, name: string }[] = [
  { value: 'now', name: 'now' }, { value: 'workspace', name: `at a time, ${sayZone(props.zone)}` },
  { value: 'reader', name: 'at a time, each reader’s own clock' },
]
const when = computed(() => draft.value.when)
const set = (next: BroadcastWhen) => draft.value = { ...draft.value, when: next }
const way = computed<Way>({
  get: () => when.value.kind === 'now' ? 'now' : when.value.zone,
  set(next) {
    if (next === 'now') return set({ kind: 'now' })
    const before = when.value.kind === 'at' ? when.value : { date: addDays(localOf(frame.now, props.zone).date, 1), time: '08:00' }
    set({ kind: 'at', date: before.date, time: before.time, zone: next })
  },
})
const at = computed(() => when.value.kind === 'at' ? when.value : null)
/* When they usually read */

const hourOf = (hour: number) => `${String(hour % 24).padStart(2, '0')}:00`
const MOST_ALIKE = 3
const usually = computed(() => {
  const { hour, share, alike } = props.reach!.usual!
  const said = `They most often open between ${hourOf(hour)} and ${hourOf(hour + 1)}, by their own clocks: ${sayRate(share)} of `
    + `${sayNumber(share.whole)} first opens in 90 days, ${sayInterval(share)}.`
  if (alike.length === 0) return said
  return alike.length > MOST_ALIKE
    ? `${said} ${alike.length} other hours may be as good: this is hardly a difference.`
    : `${said} About as good: ${alike.map(hourOf).join(', ')}.`
})
function useUsual() {
  const before = at.value ?? { date: addDays(localOf(frame.now, props.zone).date, 1) }
  set({ kind: 'at', date: before.date, time: hourOf(props.reach!.usual!.hour), zone: 'reader' })
}

const spread = computed({
  get: () => draft.value.spreadHours,
  set: (hours: number | null) => draft.value = { ...draft.value, spreadHours: hours ?? 0 },
})
</script>

<template>
  <div class="fields">
    <h2>When it leaves</h2>
    <SelectField v-model="way" label="Send it" :options="WAYS" />
    <div v-if="at" class="time">
      <div class="field"><label for="broadcast-date">Date</label>
        <DateField :model-value="at.date" input-id="broadcast-date" @update:model-value="date => set({ ...at!, date })" /></div>
      <div class="field"><label for="broadcast-time">Time</label>
        <TimeField :model-value="at.time" input-id="broadcast-time" @update:model-value="time => set({ ...at!, time })" /></div>
    </div>
    <ProblemNote :of="problem" line class="small" />
    <p v-if="reach?.usual" class="small second">{{ usually }}
      <button type="button" class="link-button small" @click="useUsual">Use {{ hourOf(reach.usual.hour) }}</button></p>
    <div class="field">
      <label for="broadcast-spread">Spread evenly over hours (0: at once)</label>
      <InputNumber v-model="spread" input-id="broadcast-spread" :min="0" :max="MOST_SPREAD_HOURS" show-buttons :step="1" />
    </div>
    <p v-if="reach?.going && reach.going.minutes > 1" class="second small">At the <NuxtLink to="/settings?at=pace">sending speed</NuxtLink>
      it takes {{ sayLength(reach.going.minutes * MINUTE) }}<template v-if="reach.going.slowest">:
        {{ sayPeople(reach.going.slowest.people) }} at {{ reach.going.slowest.domain }}, {{ reach.going.slowest.aMinute }} a
        minute</template>.</p>
    <p v-if="reach?.times && at?.zone === 'reader'" class="second small">
      The first get it {{ sayMoment(reach.times.firstAt, zone) }}, {{ sayZone(zone) }}, when it is {{ at.time }} in
      {{ reach.times.firstZone.split('/').at(-1)!.replaceAll('_', ' ') }}.
      <template v-if="reach.times.withoutZone > 0">{{ sayNumber(reach.times.withoutZone) }} without a known zone get it at
        {{ at.time }} {{ sayZone(zone) }}.</template>
    </p>
  </div>
</template>

<style scoped>
.fields { align-content: start; }
h2 { font: 650 16px/1.3 var(--heading); }
.time { display: grid; grid-template-columns: minmax(0, 1fr); gap: 10px; }
</style>
