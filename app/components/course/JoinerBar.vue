<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import { isZone } from '#core/time/zone'
import { sayZone } from '#core/time/say'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'

/** Who the dates beside the steps are shown for. */
export interface SampleJoiner { date: string, time: string, zone: string }

const joiner = defineModel<SampleJoiner>({ required: true })
const props = defineProps<{ workspaceZone: string, anyOwnZone: boolean }>()

const zones = computed(() => {
  const all = Intl.supportedValuesOf('timeZone').filter(isZone)
  return [...new Set([props.workspaceZone, 'UTC', ...all])].map(zone => ({ zone, name: zone === 'UTC' ? 'UTC' : zone.replaceAll('_', ' ') }))
})
</script>

<template>
  <div class="joiner note lamp">
    <label for="joiner-date">Dates shown for someone who joins</label>
    <DateField v-model="joiner.date" input-id="joiner-date" size="small" />
    <label for="joiner-time">at</label>
    <TimeField v-model="joiner.time" input-id="joiner-time" size="small" />
    <span>in</span>
    <Select v-model="joiner.zone" aria-label="Zone of the sample joiner" :options="zones" option-label="name" option-value="zone" filter size="small" />
    <span class="whose">{{ anyOwnZone ? `Steps on ${sayZone(workspaceZone)} unless they say the reader’s own` : `All steps go by ${sayZone(workspaceZone)}` }}</span>
  </div>
</template>

<style scoped>
.joiner { display: flex; align-items: center; gap: 8px; padding: 6px 14px; flex-wrap: wrap; }
.joiner :deep(input), .joiner .p-select { background: var(--p-porch-paper); border-color: var(--p-porch-lamp-line); font-weight: 600; }
.whose { margin-left: auto; font-size: 13px; }
</style>
