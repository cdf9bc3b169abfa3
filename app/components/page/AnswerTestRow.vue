<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import type { Ask } from '#core/page/form'
import type { AnswerTest } from '#core/page/result'
import { localOf } from '#core/time/zone'
import { testsOf } from '~/audience/leaves'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import FieldTest from '~/components/condition/FieldTest.vue'

/** One thing asked of an answer: “To what is answered a notebook”. */
const test = defineModel<AnswerTest>({ required: true })
const props = defineProps<{ asks: Ask[], label: string }>()
defineEmits<{ remove: [] }>()
const parts = useParts()
const frame = useFrame()

const IS = [{ value: 'chosen', name: 'is any of' }, { value: 'not-chosen', name: 'is none of' }]
const ask = computed(() => props.asks.find(({ id }) => id === test.value.askId))
const field = computed(() => fieldOf(ask.value))
function fieldOf(ask: Ask | undefined) {
  return ask?.kind === 'field' ? parts.value.fields.find(({ id }) => id === ask.fieldId) : undefined
}
/** Another question begins with what can be asked of it. */
function askAbout(askId: string) {
  const next = props.asks.find(({ id }) => id === askId)!
  const field = fieldOf(next)
  test.value = field
    ? { askId, is: 'field', test: testsOf(field.kind, localOf(frame.now, frame.zone).date)[0]!.make() }
    : { askId, is: 'chosen', optionIds: [] }
}
</script>

<template>
  <div class="test" role="group" :aria-label="label">
    <Select
      :model-value="test.askId" :options="asks" :option-label="(one: Ask) => one.label || 'a question without words'" option-value="id"
      size="small" placeholder="a deleted question" :aria-label="`${label}: which question`" class="which"
      @update:model-value="askAbout" />
    <template v-if="test.is !== 'field' && ask?.kind === 'choice'">
      <Select
        :model-value="test.is" :options="IS" option-label="name" option-value="value" size="small" :aria-label="`${label}: is or is not`"
        @update:model-value="is => test.is !== 'field' && (test = { ...test, is })" />
      <MultiSelect
        :model-value="test.optionIds" :options="ask.options"
        :option-label="(one: { label: string }) => one.label || 'an answer without words'" option-value="id" size="small" display="chip"
        :show-toggle-all="false" placeholder="choose answers" :aria-label="`${label}: answers`" class="which"
        @update:model-value="optionIds => test.is !== 'field' && (test = { ...test, optionIds })" />
    </template>
    <FieldTest
      v-else-if="test.is === 'field' && field" :model-value="test.test" :field="field" :label="label"
      @update:model-value="asked => test.is === 'field' && (test = { ...test, test: asked })" />
    <Button icon="pi pi-times" size="small" text severity="secondary" :aria-label="`Remove ${label}`" @click="$emit('remove')" />
  </div>
</template>

<style scoped>
.test { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.which { max-width: 100%; min-width: 180px; }
</style>
