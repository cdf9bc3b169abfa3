<script setup lang="ts">
import Button from 'primevue/button'
import type { DraftStep } from '#core/sequence/draft'
import SelectField from '~/components/SelectField.vue'

/** Where a step lies: at which place of how many of its row, which row that is, and the rows it could lie in. */
export interface StepPlace { at: number, count: number, rowKey: string, rows: { name: string, value: string }[] }

/** What can be done with any step of a course. */
defineProps<{ step: DraftStep, place: StepPlace, what: string }>()
defineEmits<{ move: [by: -1 | 1], into: [rowKey: string], remove: [], copy: [], pause: [on: boolean] }>()
</script>

<template>
  <div v-if="place.rows.length > 1" class="where">
    <SelectField
      :model-value="place.rowKey" label="It is in" :options="place.rows" @update:model-value="rowKey => $emit('into', rowKey)" />
  </div>
  <div class="foot">
    <Button severity="secondary" size="small" icon="pi pi-arrow-up" label="Earlier" :disabled="place.at === 0" @click="$emit('move', -1)" />
    <Button
      severity="secondary" size="small" icon="pi pi-arrow-down" label="Later" :disabled="place.at === place.count - 1"
      @click="$emit('move', 1)" />
    <Button severity="secondary" size="small" icon="pi pi-copy" label="Copy" @click="$emit('copy')" />
    <Button
      severity="secondary" size="small" :icon="step.paused ? 'pi pi-play' : 'pi pi-pause'"
      :label="step.paused ? 'Let people continue' : 'Pause here'" @click="$emit('pause', !step.paused)" />
    <Button severity="secondary" size="small" icon="pi pi-trash" :label="`Remove this ${what}`" class="last" @click="$emit('remove')" />
  </div>
</template>

<style scoped>
/* A way is named by all that it asks, which may be longer than the panel is wide. */
.where { display: grid; grid-template-columns: minmax(0, 1fr); }
.where :deep(.field) { grid-template-columns: minmax(0, 1fr); }
.foot { display: flex; gap: 8px; flex-wrap: wrap; padding-top: 14px; border-top: 1px solid var(--p-porch-line-light); }
.last { margin-left: auto; }
</style>
