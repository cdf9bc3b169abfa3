<script setup lang="ts">
import Button from 'primevue/button'
import type { DraftStep } from '#core/sequence/draft'

/** What can be done with any step of a course, in its own row. */
defineProps<{ step: DraftStep, place: { at: number, count: number }, what: string }>()
defineEmits<{ move: [by: -1 | 1], remove: [], copy: [], pause: [on: boolean] }>()
</script>

<template>
  <div class="foot">
    <Button severity="secondary" size="small" icon="pi pi-arrow-up" label="Earlier" :disabled="place.at === 0" @click="$emit('move', -1)" />
    <Button severity="secondary" size="small" icon="pi pi-arrow-down" label="Later" :disabled="place.at === place.count - 1" @click="$emit('move', 1)" />
    <Button severity="secondary" size="small" icon="pi pi-copy" label="Copy" @click="$emit('copy')" />
    <Button severity="secondary" size="small" :icon="step.paused ? 'pi pi-play' : 'pi pi-pause'" :label="step.paused ? 'Let people on' : 'Pause here'" @click="$emit('pause', !step.paused)" />
    <Button severity="secondary" size="small" icon="pi pi-trash" :label="`Remove this ${what}`" class="last" @click="$emit('remove')" />
  </div>
</template>

<style scoped>
.foot { display: flex; gap: 8px; flex-wrap: wrap; padding-top: 14px; border-top: 1px solid var(--p-porch-line-light); }
.last { margin-left: auto; }
</style>
