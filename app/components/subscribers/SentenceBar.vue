<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { Field } from '#core/people/field'
import type { ConditionParts } from '#core/views/audience'
import type { Doing, TaskView } from '#core/views/tasks'
import { fieldOptions, isChosen } from '~/audience/fieldOptions'
import { heldTags } from '~/audience/leaves'
import { api, hrefOf } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayNumber, sayPeople } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** What is to be done with everybody in the table, or with those picked, said in one sentence with their number. */
const props = defineProps<{
  total: number | null, picked: number[], query: Record<string, string>, columns: string[], parts: ConditionParts,
}>()
const emit = defineEmits<{ begun: [task: TaskView] }>()

const { busy, problem, attempt } = useAttempt()

type Action = 'give-tag' | 'take-tag' | 'put-on-list' | 'take-off-list' | 'set-field' | 'enrol' | 'export' | 'erase'
const ACTIONS: { value: Action, name: string }[] = [
  { value: 'give-tag', name: 'add the tag' }, { value: 'take-tag', name: 'remove the tag' },
  { value: 'put-on-list', name: 'add to the list' }, { value: 'take-off-list', name: 'remove from the list' },
  { value: 'set-field', name: 'set the field' }, { value: 'enrol', name: 'start the course' }, { value: 'export', name: 'export as CSV' },
  { value: 'erase', name: 'erase for good' },
]
const action = ref<Action>('give-tag')
const which = ref<number | null>(null)
const typed = ref('')
const number = ref('')
const erasing = ref(false)
watch(action, () => {
  which.value = choices.value[0]?.value ?? null
  problem.value = null
})
watch(which, () => typed.value = '')

const people = computed(() => props.picked.length || props.total || 0)
const choices = computed(() => {
  const named = (rows: { id: number, name: string }[]) => rows.map(({ id, name }) => ({ value: id, name }))
  switch (action.value) {
    case 'give-tag': return named(props.parts.tags)
    case 'take-tag': return named(heldTags(props.parts))
    case 'put-on-list': case 'take-off-list': return named(props.parts.lists)
    case 'set-field': return named(props.parts.fields)
    case 'enrol': return named(props.parts.courses)
    default: return []
  }
})
onMounted(() => which.value = choices.value[0]?.value ?? null)
const WHAT: Partial<Record<Action, string>> = {
  'give-tag': 'tag', 'take-tag': 'tag', 'put-on-list': 'list', 'take-off-list': 'list', 'set-field': 'field', 'enrol': 'course',
}
const field = computed<Field | undefined>(() =>
  action.value === 'set-field' ? props.parts.fields.find(({ id }) => id === which.value) : undefined)
const values = computed(() => field.value && isChosen(field.value) ? fieldOptions(field.value) : null)
const label = computed(() => {
  const many = sayPeople(people.value)
  switch (action.value) {
    case 'give-tag': return `Add it to ${many}`
    case 'take-tag': return `Remove it from ${many}`
    case 'put-on-list': return `Add ${many} to it`
    case 'take-off-list': return `Remove ${many} from it`
    case 'set-field': return typed.value.trim() === '' ? `Clear it for ${many}` : `Set it for ${many}`
    case 'enrol': return `Start it for ${many}`
    case 'erase': return `Erase ${many}`
    default: return `Export ${many}`
  }
})
const exportAddress = computed(() =>
  hrefOf('GET /subscribers/export', { query: { ...props.query, columns: props.columns.join(','), ids: props.picked.join(',') } }))

/** An export is only read, by its address. */
function doingOf(kind: Exclude<Action, 'export'>, id: number): Doing {
  switch (kind) {
    case 'give-tag': case 'take-tag': return { kind, tagId: id }
    case 'put-on-list': case 'take-off-list': return { kind, listId: id }
    case 'set-field': return { kind, fieldId: id, typed: typed.value }
    case 'enrol': return { kind, courseId: id }
    case 'erase': return { kind }
  }
}
async function doIt() {
  if (action.value === 'export') return
  const doing = doingOf(action.value, which.value!)
  const whom = props.picked.length > 0
    ? { kind: 'picked' as const, ids: props.picked }
    : { kind: 'all' as const, query: props.query }
  await attempt(async () => {
    const task = await api('POST /tasks', { body: { whom, doing, said: people.value } })
    erasing.value = false
    number.value = ''
    emit('begun', task)
  })
}
</script>

<template>
  <form class="bar" aria-label="What to do with these people" @submit.prevent="action === 'erase' ? erasing = true : doIt()">
    <span class="with">
      <template v-if="picked.length">{{ sayNumber(picked.length) }} selected:</template>
      <template v-else-if="total === 1">1 person:</template>
      <template v-else>{{ total === null ? 'Counting people' : sayPeople(total) }}:</template>
    </span>
    <Select v-model="action" :options="ACTIONS" option-label="name" option-value="value" size="small" aria-label="What to do" />
    <Select
      v-if="choices.length" v-model="which" :options="choices" option-label="name" option-value="value" size="small" filter
      :aria-label="`Which ${WHAT[action]}`" class="which" />
    <span v-else-if="WHAT[action]" class="second small">there is no {{ WHAT[action] }} yet</span>
    <template v-if="field">
      <span class="second small">to</span>
      <Select
        v-if="values" :model-value="typed || null" :options="values" option-label="name" option-value="value" size="small" show-clear
        placeholder="not known" :filter="values.length > 8" aria-label="To what" @update:model-value="value => typed = value ?? ''" />
      <InputText
        v-else v-model="typed" size="small" maxlength="1000" :placeholder="field.kind === 'date' ? '2026-11-24' : 'not known'"
        aria-label="To what" class="value" :invalid="!!problem?.of('typed')" />
    </template>
    <Button
      v-if="action === 'export'" as="a" :href="exportAddress" download="subscribers.csv" :label="label" severity="secondary" size="small" />
    <Button
      v-else type="submit" :label="label" severity="secondary" size="small" :loading="busy"
      :disabled="people === 0 || (!!WHAT[action] && which === null)" />
    <p v-if="action === 'export'" class="second small">With the columns shown here. Cells that a spreadsheet could run as formulas are
      made safe.</p>
    <ProblemNote v-if="!erasing" :of="problem" at="typed" whole class="small" />
  </form>
  <Dialog v-model:visible="erasing" modal header="Erase for good" :style="{ width: '460px' }">
    <form class="fields" @submit.prevent="doIt">
      <p>This erases all personal data of {{ sayPeople(people) }}: addresses, names, fields, tags, lists and emails in the practice
        mailbox. It cannot be undone. Emails not sent yet are withdrawn, and totals stay as they are. An import cannot bring them back;
        they can opt in again.</p>
      <div class="field">
        <label for="erase-number">Type the number {{ people }} to erase them</label>
        <InputText id="erase-number" v-model="number" inputmode="numeric" autofocus autocomplete="off" />
      </div>
      <ProblemNote :of="problem" />
      <div class="ends">
        <Button severity="secondary" label="Keep them" @click="erasing = false" />
        <Button type="submit" severity="danger" :label="label" :disabled="number.trim() !== String(people)" :loading="busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.bar {
  display: flex; align-items: center; gap: 8px; padding: 8px 12px; border-bottom: 1px solid var(--p-porch-line-light); flex-wrap: wrap;
  background: var(--p-porch-rail);
}
.with { font-weight: 600; }
.which { max-width: 240px; }
.value { width: 160px; }
.problem { color: var(--p-porch-brick); width: 100%; }
.ends { display: flex; justify-content: flex-end; gap: 8px; }
</style>
