<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import { AGAIN_WITHOUT, AGAIN_WORDS, type AgainSpec, type AgainWithout } from '#core/broadcast/again'
import { linksOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import SelectField from '~/components/SelectField.vue'
import { LineEditor } from '~/editor/lazy'

/** Who gets it a second time, and under which subject. */
const spec = defineModel<AgainSpec>({ required: true })
const props = defineProps<{ content: MessageContent, listId: number | null }>()
const set = (change: Partial<AgainSpec>) => spec.value = { ...spec.value, ...change }
const WITHOUT = AGAIN_WITHOUT.map(value => ({ value, name: `who ${AGAIN_WORDS[value]}` }))
const links = computed(() => [...new Map(linksOf(props.content.body).map(({ url, label }) => [url, label]))]
  .map(([value, name]) => ({ value: value as string | null, name })))
const lack = (without: AgainWithout) => set({ without, url: without === 'link' ? spec.value.url ?? links.value[0]?.value ?? null : null })
</script>

<template>
  <div class="fields">
    <SelectField :model-value="spec.without" label="To people" :options="WITHOUT" @update:model-value="lack" />
    <SelectField
      v-if="spec.without === 'link'" :model-value="spec.url" label="Which link" :options="links"
      @update:model-value="url => set({ url })" />
    <div class="field">
      <span class="label">Another subject</span>
      <LineEditor
        :model-value="spec.subject" label="Subject of the second sending" :list-id="listId"
        @update:model-value="subject => set({ subject })" />
    </div>
    <div v-if="spec.without === 'open'" class="check">
      <Checkbox
        :model-value="spec.uncertainToo" binary input-id="again-uncertain"
        @update:model-value="(on: boolean) => set({ uncertainToo: on })" />
      <label for="again-uncertain" class="small">Also people with only uncertain opens: their mail program opens everything, so they may
        have read it</label>
    </div>
  </div>
</template>

<style scoped>
.check { display: flex; gap: 8px; align-items: flex-start; }
</style>
