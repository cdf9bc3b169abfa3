<script setup lang="ts">
import { computed, useTemplateRef, watch } from 'vue'
import type { ApiProblem } from '~/composables/useApi'

/** What went wrong, said at once to whoever looks or listens. Nothing stands here where nothing did. */
const props = defineProps<{
  of: ApiProblem | string | null | undefined
  /** What is wrong with a field is told at the field, and not here. */
  general?: boolean
  /** There is no field to tell it at: the first that is wrong is told here. */
  first?: boolean
  /** The field it stands at: only what is wrong with that is told, or with `whole` what else went wrong, too. */
  at?: string
  whole?: boolean
  /** A line below what it is about, as at a field, and not a note by itself. */
  line?: boolean
}>()

const text = computed(() => {
  const { of, general, first, at, whole } = props
  if (!of || typeof of === 'string') return of
  if (at !== undefined) return of.of(at) ?? (whole ? of.message : null)
  if (general && of.fields.length > 0) return null
  return first ? of.fields[0]?.problem ?? of.message : of.message
})

const note = useTemplateRef<HTMLElement>('note')
// In a long form, what is wrong can stand out of sight of the button that was pressed: the first of it comes into view, with its field.
watch(note, (shown) => {
  if (shown && shown === shown.closest('form')?.querySelector('[role=alert]')) {
    (shown.closest('.field') ?? shown).scrollIntoView({ block: 'nearest' })
  }
})
</script>

<template>
  <p v-if="text" ref="note" :class="line || at !== undefined ? 'problem' : 'note brick'" role="alert">{{ text }}</p>
</template>
