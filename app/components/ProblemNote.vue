<script setup lang="ts">
import { computed } from 'vue'
import type { ApiProblem } from '~/composables/useApi'

/** What went wrong, said at once to whoever looks or listens. Nothing stands here where nothing did. */
const props = defineProps<{
  of: ApiProblem | string | null | undefined
  /** What is wrong with a field is told at the field, and not here. */
  general?: boolean
  /** There is no field to tell it at: the first that is wrong is told here. */
  first?: boolean
}>()

const text = computed(() => {
  const { of, general, first } = props
  if (!of || typeof of === 'string') return of
  if (general && of.fields.length > 0) return null
  return first ? of.fields[0]?.problem ?? of.message : of.message
})
</script>

<template>
  <p v-if="text" class="note brick" role="alert">{{ text }}</p>
</template>
