<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import { isZone, type LocalDate } from '#core/time/zone'
import { sayZone } from '#core/time/say'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'

/** Who the dates beside the steps are shown for; `dates` are those of the fields by which steps go. */
export interface SampleJoiner { date: LocalDate, time: string, zone: string, dates: Record<number, LocalDate> }

const joiner = defineModel<SampleJoiner>({ required: true })
const props = defineProps<{ workspaceZone: string, anyOwnZone: boolean, fields: { id: number, name: string }[] }>()

const zones = computed(() => {
  const all = Intl.supportedValuesOf('timeZone').filter(isZone)
  return [...new Set([props.workspaceZone, 'UTC', ...all])].map(zone => ({ zone, name: zone === 'UTC' ? 'UTC' : zone.replaceAll('_', ' ') }))
})
const set = (change: Partial<SampleJoiner>) => joiner.value = { ...joiner.value, ...change }
</script>

<template>
  <div class="joiner note lamp">
    <label for="joiner-date">Dates shown for someone who joins</label>
    <DateField :model-value="joiner.date" input-id="joiner-date" size="small" @update:model-value="date => set({ date })" />
    <label for="joiner-time">at</label>
    <TimeField :model-value="joiner.time" input-id="joiner-time" size="small" @update:model-value="time => set({ time })" />
    <span>in</span>
    <Select :model-value="joiner.zone" aria-label="Zone of the sample joiner" :options="zones" option-label="name" option-value="zone" filter size="small" @update:model-value="zone => set({ zone })" />
    <template v-for="field in fields" :key="field.id">
      <label :for="`joiner-field-${field.id}`">{{ field.name }}</label>
      <DateField :model-value="joiner.dates[field.id] ?? joiner.date" :input-id="`joiner-field-${field.id}`" size="small" @update:model-value="date => set({ dates: { ...joiner.dates, [field.id]: date } })" />
    </template>
    <span class="whose">{{ anyOwnZone ? `Steps on ${sayZone(workspaceZone)} unless they say the reader’s own` : `All steps go by ${sayZone(workspaceZone)}` }}</span>
  </div>
</template>

<style scoped>
.joiner { display: flex; align-items: center; gap: 8px; padding: 6px 14px; flex-wrap: wrap; }
.joiner :deep(input), .joiner .p-select { background: var(--p-porch-paper); border-color: var(--p-porch-lamp-line); font-weight: 600; }
.whose { margin-left: auto; font-size: 13px; }
</style>
