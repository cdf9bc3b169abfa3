<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import type { PageContent } from '#core/page/content'
import { readAnswers } from '#core/page/form'
import { nameOfResult, neverPicked, pickResult } from '#core/page/result'
import { localOf } from '#core/time/zone'
import { fieldOptions, isChosen } from '~/audience/fieldOptions'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'

/** Answers to try out, read by the very functions that read a visitor's. */
const props = defineProps<{ draft: PageContent }>()
const emit = defineEmits<{ came: [resultId: string | null] }>()
const parts = useParts()
const frame = useFrame()

const typed = ref<Record<string, string[]>>({})
const fields = computed(() => new Map(parts.value.fields.map(field => [field.id, field])))
const read = computed(() => readAnswers({ ...props.draft.form, boxes: [] }, fields.value, typed.value))
const today = computed(() => localOf(frame.now, frame.zone).date)
const result = computed(() => pickResult(props.draft.resultPages, props.draft.form.asks, read.value.answered, today.value))
const name = computed(() => result.value ? nameOfResult(result.value) : 'the page for everyone else')
const asked = computed(() =>
  props.draft.form.asks.filter(ask => props.draft.resultPages.some(({ when }) => when.of.some(({ askId }) => askId === ask.id))))
const never = computed(() => (neverPicked(props.draft.resultPages, props.draft.form.asks) ?? []).map(id =>
  props.draft.resultPages.find(page => page.id === id)!).filter(page => page.when.of.length > 0).map(nameOfResult))
function set(askId: string, values: (string | null)[]) {
  typed.value = { ...typed.value, [askId]: values.filter(value => value !== null) }
}
// Also when a condition changes and the answers stay.
watch(() => result.value?.id ?? null, id => emit('came', id), { immediate: true })
</script>

<template>
  <section class="panel panel-body fields" aria-labelledby="trial">
    <h2 id="trial">Try the answers</h2>
    <div v-for="ask in asked" :key="ask.id" class="field">
      <label :for="`trial-${ask.id}`">{{ ask.label }}</label>
      <template v-if="ask.kind === 'choice'">
        <MultiSelect
          v-if="ask.many" :model-value="typed[ask.id] ?? []" :input-id="`trial-${ask.id}`" :options="ask.options" option-label="label"
          option-value="id" size="small" display="chip" :show-toggle-all="false" placeholder="not answered"
          @update:model-value="values => set(ask.id, values)" />
        <Select
          v-else :model-value="typed[ask.id]?.[0] ?? null" :label-id="`trial-${ask.id}`" :aria-label="ask.label" :options="ask.options"
          option-label="label" option-value="id" size="small" placeholder="not answered" show-clear
          @update:model-value="value => set(ask.id, [value])" />
      </template>
      <Select
        v-else-if="fields.get(ask.fieldId) && isChosen(fields.get(ask.fieldId)!)" :model-value="typed[ask.id]?.[0] ?? null"
        :aria-label="ask.label" :options="fieldOptions(fields.get(ask.fieldId)!)" option-label="name" option-value="value" size="small"
        placeholder="not answered" show-clear @update:model-value="value => set(ask.id, [value])" />
      <InputText
        v-else :id="`trial-${ask.id}`" :model-value="typed[ask.id]?.[0] ?? ''" size="small" maxlength="500" placeholder="not answered"
        @update:model-value="value => set(ask.id, [value ?? ''])" />
    </div>
    <p role="status">They see <strong>{{ name }}</strong>.</p>
    <p v-if="never.length" class="problem">{{ never.join(' and ') }}: no answers lead there. An earlier page always comes first, or its
      conditions contradict each other.</p>
  </section>
</template>
