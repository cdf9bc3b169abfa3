<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { CHOICES } from '#core/message/blocks/choice'
import type { ChoiceNode } from '#core/message/content'
import type { AnswersView } from '#core/views/email'
import { sayNumber } from '#core/stats/say'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import PeopleNumber from '~/components/PeopleNumber.vue'

/** A question with its answers: what each says and the tag it gives, and how many chose it. */
const props = defineProps<{
  attrs: ChoiceNode['attrs'], tags: { id: number, name: string }[]
  /** Which step of which course it stands in, where that is known: then it is told who chose what. */
  of: { courseId: number, stepId: string } | null
}>()
const emit = defineEmits<{ change: [attrs: Partial<ChoiceNode['attrs']>] }>()
type Choice = ChoiceNode['attrs']['choices'][number]
const set = (choices: Choice[]) => emit('change', { choices })
const put = (n: number, change: Partial<Choice>) => set(props.attrs.choices.map((one, at) => at === n ? { ...one, ...change } : one))
const labels = computed(() => props.attrs.choices.map(({ label }) => label))
const results = ref<AnswersView | null>(null)
const asked = useNewest()
watch(() => JSON.stringify([props.of, labels.value]), async () => {
  const isNewest = asked()
  if (!props.of) return
  const { courseId, stepId } = props.of
  const answer = await api('POST /emails/answers', {
    body: { of: { kind: 'course', ownerId: courseId, itemId: stepId }, labels: labels.value },
  }).catch(() => null)
  if (isNewest()) results.value = answer
}, { immediate: true })
const resultOf = (label: string) => results.value?.answers.find(one => one.label === label)
const options = computed(() => props.tags.map(({ id, name }) => ({ value: id, name })))
</script>

<template>
  <div class="fields">
    <fieldset v-for="(one, n) in attrs.choices" :key="n">
      <legend class="small">Choice {{ n + 1 }}
        <span v-if="results && results.sent > 0" class="second">{{ ' ' }}<PeopleNumber
          :people="resultOf(one.label)?.people ?? 0" :query="{ where: JSON.stringify(resultOf(one.label)?.where ?? {}) }" />
          of {{ sayNumber(results.sent) }} chose it</span>
      </legend>
      <InputText
        :model-value="one.label" size="small" maxlength="60" :aria-label="`Choice ${n + 1} says`" placeholder="A coptic book"
        @update:model-value="label => put(n, { label: label ?? '' })" />
      <InputText
        :model-value="one.hint" size="small" maxlength="80" :aria-label="`Below choice ${n + 1}`" placeholder="opens flat"
        @update:model-value="hint => put(n, { hint: hint ?? '' })" />
      <span class="tag-row">
        <Select
          :model-value="one.tagId" :options="options" option-label="name" option-value="value" size="small" filter show-clear
          placeholder="adds no tag" :aria-label="`Choice ${n + 1} adds the tag`"
          @update:model-value="tagId => put(n, { tagId: tagId ?? null })" />
        <button
          v-if="attrs.choices.length > CHOICES.least" type="button" class="link-button" :aria-label="`Delete choice ${n + 1}`"
          @click="set(attrs.choices.filter((_, at) => at !== n))"><i class="pi pi-times" aria-hidden="true" /></button>
      </span>
    </fieldset>
    <Button
      v-if="attrs.choices.length < CHOICES.most" label="Add a choice" size="small" severity="secondary"
      @click="set([...attrs.choices, { label: '', hint: '', tagId: null }])" />
    <label class="small check">
      <Checkbox :model-value="attrs.onlyOne" binary @update:model-value="(onlyOne: boolean) => emit('change', { onlyOne })" />
      Only one at a time: choosing another takes the tag of the first
    </label>
    <div class="field">
      <label for="choice-says">Then our page says</label>
      <InputText
        id="choice-says" :model-value="attrs.says" size="small" maxlength="300" placeholder="You get its notes on Thursday."
        @update:model-value="says => emit('change', { says: says ?? '' })" />
      <p class="hint">The page shows what was noted, and readers can change it there.</p>
    </div>
  </div>
</template>

<style scoped>
fieldset { border: 0; margin: 0; padding: 0; display: grid; gap: 4px; }
legend { padding: 0 0 2px; font-weight: 600; }
legend .second { font-weight: 400; }
.tag-row { display: flex; gap: 8px; align-items: center; }
.tag-row :deep(.p-select) { flex: 1; min-width: 0; }
.check { display: flex; gap: 6px; align-items: start; }
</style>
