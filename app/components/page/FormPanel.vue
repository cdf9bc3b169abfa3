<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import Textarea from 'primevue/textarea'
import type { Ask, PageForm } from '#core/page/form'
import { FIELD_KIND_WORDS } from '#core/people/field'
import { useParts } from '~/composables/useParts'
import MarkPicker from '~/components/MarkPicker.vue'
import ChoiceAnswers from './ChoiceAnswers.vue'
import { freeId } from './freeId'

/** What the form asks, and what each answer gives. */
const form = defineModel<PageForm>({ required: true })
const props = defineProps<{ lists: { id: number, name: string }[], tags: { id: number, name: string }[], make: (
  kind: 'lists' | 'tags', name: string,
) => Promise<number>, problems: { field: string, problem: string }[] }>()
const parts = useParts()

const FIRST_NAME: { value: PageForm['firstName'], name: string }[] = [
  { value: 'no', name: 'is not asked' }, { value: 'may', name: 'optional' }, { value: 'must', name: 'is required' },
]
const NEED = [{ value: false, name: 'optional' }, { value: true, name: 'is required' }]
const ONE_BY_ONE = [{ value: false, name: 'all at once' }, { value: true, name: 'one after the other' }]
const MANY = [{ value: false, name: 'one answer' }, { value: true, name: 'several answers' }]

const empty = (id: string) => ({ id, label: '', tagIds: [], fields: [] })
function addChoice() {
  form.value.asks.push({
    id: freeId('a', form.value.asks), kind: 'choice', label: 'What would you like?', required: false, many: true,
    options: [empty('o1'), empty('o2')],
  })
}
function addField(fieldId: number) {
  const field = parts.value.fields.find(({ id }) => id === fieldId)
  if (field) {
    form.value.asks.push({ id: freeId('a', form.value.asks), kind: 'field', fieldId, label: field.label || field.name, required: false })
  }
}
const addBox = () => form.value.boxes.push({ id: freeId('b', form.value.boxes), wording: '', required: false, listIds: [], tagIds: [] })
function move(n: number, by: -1 | 1) {
  const [ask] = form.value.asks.splice(n, 1)
  form.value.asks.splice(n + by, 0, ask!)
}
const fieldOf = (ask: Ask) => ask.kind === 'field' ? parts.value.fields.find(({ id }) => id === ask.fieldId) : undefined
const problemOf = (id: string) => props.problems.find(({ field }) => field === id)?.problem
function sayAsk(ask: Ask): string {
  if (ask.kind === 'choice') return 'A choice: each answer adds the tag and fields next to it'
  const field = fieldOf(ask)
  return field ? `Into the field “${field.name}”: ${FIELD_KIND_WORDS[field.kind]}` : 'Into a field that no longer exists'
}
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-label="Always asked">
      <p><strong>The email address</strong> is always asked.</p>
      <p class="line"><strong>The first name</strong> <SelectButton
        v-model="form.firstName" :options="FIRST_NAME" option-label="name" option-value="value" :allow-empty="false" size="small"
        aria-label="The first name" /></p>
    </section>

    <section v-for="(ask, n) in form.asks" :key="ask.id" class="panel panel-body fields" :aria-label="ask.label || `Question ${n + 1}`">
      <div class="line">
        <span class="second">
          {{ sayAsk(ask) }}
        </span>
        <span class="acts">
          <Button
            icon="pi pi-arrow-up" size="small" text severity="secondary" :aria-label="`Move ${ask.label} up`" :disabled="n === 0"
            @click="move(n, -1)" />
          <Button
            icon="pi pi-arrow-down" size="small" text severity="secondary" :aria-label="`Move ${ask.label} down`"
            :disabled="n === form.asks.length - 1" @click="move(n, 1)" />
          <Button
            icon="pi pi-trash" size="small" text severity="secondary" :aria-label="`Do not ask ${ask.label}`"
            @click="form.asks.splice(n, 1)" />
        </span>
      </div>
      <div class="field">
        <label :for="`ask-${ask.id}`">The question</label>
        <InputText :id="`ask-${ask.id}`" v-model="ask.label" maxlength="200" :invalid="!!problemOf(ask.id)" />
        <p v-if="problemOf(ask.id)" class="problem">{{ problemOf(ask.id) }}</p>
      </div>
      <p class="line">
        <SelectButton
          v-model="ask.required" :options="NEED" option-label="name" option-value="value" :allow-empty="false" size="small"
          :aria-label="`Whether ${ask.label} is required`" />
        <SelectButton
          v-if="ask.kind === 'choice'" v-model="ask.many" :options="MANY" option-label="name" option-value="value" :allow-empty="false"
          size="small" :aria-label="`How many answers to ${ask.label}`" />
      </p>
      <ChoiceAnswers v-if="ask.kind === 'choice'" v-model="form.asks[n] as Extract<Ask, { kind: 'choice' }>" :tags="tags"
                     :make="name => make('tags', name)" />
    </section>

    <section v-for="(box, n) in form.boxes" :key="box.id" class="panel panel-body fields" :aria-label="`Box ${n + 1}`">
      <div class="line">
        <span class="second">A checkbox. Its words are kept with everyone who ticks it.</span>
        <Button
          icon="pi pi-trash" size="small" text severity="secondary" :aria-label="`Remove box ${n + 1}`" @click="form.boxes.splice(n, 1)"
        />
      </div>
      <div class="field">
        <label :for="`box-${box.id}`">What they agree to</label>
        <Textarea :id="`box-${box.id}`" v-model="box.wording" rows="2" auto-resize maxlength="1000" :invalid="!!problemOf(box.id)" />
        <p v-if="problemOf(box.id)" class="problem">{{ problemOf(box.id) }}</p>
      </div>
      <span class="tick">
        <Checkbox v-model="box.required" :input-id="`box-${box.id}-required`" binary />
        <label :for="`box-${box.id}-required`">Required</label>
      </span>
      <div class="fields two">
        <div class="field">
          <label :for="`box-${box.id}-lists`">People who tick it join</label>
          <MarkPicker
            v-model="box.listIds" :input-id="`box-${box.id}-lists`" what="list" :options="lists" :make="name => make('lists', name)" />
        </div>
        <div class="field">
          <label :for="`box-${box.id}-tags`">and gets</label>
          <MarkPicker v-model="box.tagIds" :input-id="`box-${box.id}-tags`" what="tag" :options="tags" :make="name => make('tags', name)" />
        </div>
      </div>
    </section>

    <p class="line wrap">
      <Button label="Ask a choice" icon="pi pi-plus" size="small" severity="secondary" @click="addChoice" />
      <Select
        :model-value="null" :options="parts.fields" option-label="name" option-value="id" size="small" placeholder="Ask for a field"
        aria-label="Ask for a field" empty-message="No fields yet: make one under Subscribers." @update:model-value="addField" />
      <Button label="Add a checkbox" icon="pi pi-plus" size="small" severity="secondary" @click="addBox" />
    </p>

    <section v-if="form.asks.length > 1" class="panel panel-body fields" aria-label="Order of the questions">
      <p class="line"><strong>Show the
        questions</strong> <SelectButton
        v-model="form.oneByOne" :options="ONE_BY_ONE" option-label="name" option-value="value" :allow-empty="false" size="small"
        aria-label="Show the questions" /></p>
      <p v-if="form.oneByOne" class="second small">The address is asked last. Without scripts, and on other sites, all questions appear at
        once.</p>
    </section>

    <section class="panel panel-body fields" aria-label="The button">
      <div class="field">
        <label for="button-label">The button says</label>
        <InputText
          id="button-label" v-model="form.buttonLabel" maxlength="80" :invalid="!!problemOf('form') && form.buttonLabel.trim() === ''" />
      </div>
      <div class="field">
        <label for="consent">Under the button: what people agree to by clicking it</label>
        <Textarea
          id="consent" v-model="form.consentWording" rows="2" auto-resize maxlength="1000"
          :invalid="!!problemOf('form') && form.consentWording.trim() === ''" />
        <p v-if="problemOf('form')" class="problem">{{ problemOf('form') }}</p>
        <p v-else class="hint">Kept word for word with everyone who clicks the button.</p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.line { display: flex; align-items: center; gap: 10px; justify-content: space-between; }
.line.wrap { justify-content: flex-start; flex-wrap: wrap; }
.acts { display: flex; }
.tick { display: inline-flex; align-items: center; gap: 8px; }
</style>
