<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import type { EmailFate, Leaf } from '#core/audience/condition'
import { useParts } from '~/composables/useParts'
import StretchField from './StretchField.vue'
import WhichEmail from './WhichEmail.vue'

/** What became of an email: which one, how often, when. */
const leaf = defineModel<Extract<Leaf, { kind: 'email' }>>({ required: true })
defineProps<{ label: string }>()
const parts = useParts()

const FATES: { value: EmailFate, name: string }[] = [
  { value: 'sent', name: 'was sent to them' }, { value: 'opened', name: 'was opened (reader opens)' },
  { value: 'maybe-opened', name: 'may have been opened (uncertain opens)' }, { value: 'clicked', name: 'was clicked in' },
  { value: 'left-by', name: 'made them unsubscribe' },
  { value: 'held-back', name: 'was held back' }, { value: 'given-up', name: 'failed' },
  { value: 'waiting-again', name: 'is waiting for another try' }, { value: 'maybe-twice', name: 'may have arrived twice' },
]
const links = computed(() => {
  const { which } = leaf.value
  const steps = parts.value.courses.filter(({ id }) => !which || (which.kind === 'course' && id === which.ownerId))
    .flatMap(course => course.steps).filter(step => !which?.itemId || step.id === which.itemId)
  const found = new Map(steps.flatMap(step => step.links).map(({ url, label }) => [url, `${label}: ${url}`]))
  return [{ value: '', name: 'any link' }, ...[...found].map(([value, name]) => ({ value, name }))]
})
const setFate = (fate: EmailFate) => leaf.value = { ...leaf.value, fate, url: fate === 'clicked' ? leaf.value.url : null }
</script>

<template>
  <WhichEmail
    :model-value="leaf.which" :label="`${label}: which`" @update:model-value="which => leaf = { ...leaf, which, url: null }" />
  <Select
    :model-value="leaf.fate" :options="FATES" option-label="name" option-value="value" size="small"
    :aria-label="`${label}: what became of it`" @update:model-value="setFate" />
  <Select v-if="leaf.fate === 'clicked' && links.length > 1" :model-value="leaf.url ?? ''" :options="links" option-label="name"
          option-value="value" size="small" placeholder="any link" :aria-label="`${label}: which link`" class="which"
          @update:model-value="url => leaf = { ...leaf, url: url || null }" />
  <StretchField :model-value="leaf.within" :label="label" any-time @update:model-value="within => leaf = { ...leaf, within }" />
  <span v-if="!leaf.which?.itemId" class="times">
    <span class="second small">at least</span>
    <InputNumber
      :model-value="leaf.times" :min="1" :max="1000" :allow-empty="false" size="small" :aria-label="`${label}: how many different emails`"
      class="few" @update:model-value="times => leaf = { ...leaf, times: times ?? 1 }" />
    <span class="second small">{{ leaf.times === 1 ? 'email' : 'different emails' }}</span>
  </span>
</template>

<style scoped>
.which { max-width: 300px; }
.times { display: inline-flex; align-items: center; gap: 6px; }
.few :deep(input) { width: 56px; }
</style>
