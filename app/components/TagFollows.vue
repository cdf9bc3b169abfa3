<script setup lang="ts">
import { computed } from 'vue'
import MultiSelect from 'primevue/multiselect'
import type { Follows } from '#core/rules/shortForms'
import ProblemNote from '~/components/ProblemNote.vue'

/** What follows from a tag, as three short sentences. */
const follows = defineModel<Follows>({ required: true })
const props = defineProps<{ tagId: number | null, tags: { id: number, name: string }[], problem: string | undefined }>()
const others = computed(() => props.tags.filter(tag => tag.id !== props.tagId))
const SENTENCES: { key: keyof Follows, label: string }[] = [
  { key: 'gives', label: 'People who get it also get' },
  { key: 'takes', label: 'People who get it lose' },
  { key: 'drops', label: 'People who lose it also lose' },
]
const set = (key: keyof Follows, ids: number[]) => follows.value = { ...follows.value, [key]: ids }
</script>

<template>
  <fieldset class="fields">
    <legend class="second small">When someone gets or loses it (from now on)</legend>
    <div v-for="{ key, label } in SENTENCES" :key="key" class="sentence">
      <label :for="`follows-${key}`">{{ label }}</label>
      <MultiSelect
        :model-value="follows[key]" :input-id="`follows-${key}`" :options="others" option-label="name" option-value="id" display="chip"
        filter :show-toggle-all="false" placeholder="nothing" size="small" @update:model-value="ids => set(key, ids)" />
    </div>
    <ProblemNote :of="problem" line class="small" />
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; gap: 8px; }
legend { padding: 0 0 6px; }
.sentence { display: grid; grid-template-columns: 178px minmax(0, 1fr); gap: 10px; align-items: center; }
@media (max-width: 560px) { .sentence { grid-template-columns: minmax(0, 1fr); gap: 3px; } }
</style>
