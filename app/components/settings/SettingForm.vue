<script setup lang="ts">
import Button from 'primevue/button'
import type { ApiProblem } from '~/composables/useApi'
import ProblemNote from '~/components/ProblemNote.vue'

/** The frame of one part of the settings: its head, what is wrong, and saving. Its fields are in the slot. */
defineProps<{
  id: string
  title: string
  saveLabel: string
  loading: string | null
  isThere: boolean
  changed: boolean
  busy: boolean
  problem: ApiProblem | null
}>()
defineEmits<{ save: [] }>()
</script>

<template>
  <form class="panel" :aria-labelledby="id" @submit.prevent="$emit('save')">
    <h2 :id="id">{{ title }}</h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <div v-else-if="isThere" class="panel-body fields">
      <slot />
      <ProblemNote :of="problem" line first class="small" />
      <div><Button type="submit" :label="saveLabel" :disabled="!changed" :loading="busy" /></div>
    </div>
  </form>
</template>

<style scoped>
.fields :deep(.line) { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.fields :deep(.line .p-inputnumber-input) { width: 100px; }
</style>
