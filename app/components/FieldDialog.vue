<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import type { FieldInput, FieldKind } from '#core/people/field'
import { FIELD_KIND_WORDS, FIELD_KINDS } from '#core/people/field'
import type { FieldLine } from '#core/views/audience'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useUndo } from '~/stores/undo'
import { sayPeople } from '#core/stats/say'
import SelectField from './SelectField.vue'
import ThingActions from './ThingActions.vue'
import UsesOf from './UsesOf.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Makes or changes a field, or deletes it once its number was typed. */
const editing = defineModel<FieldInput & { line: FieldLine | null } | null>({ required: true })
const emit = defineEmits<{ saved: [] }>()
const { busy, problem, attempt } = useAttempt()
const undo = useUndo()

const KINDS: { value: FieldKind, name: string }[] = FIELD_KINDS.map(value => ({ value, name: FIELD_KIND_WORDS[value] }))
const choices = ref('')
const deleting = ref(false)
const number = ref('')
const blocked = ref<boolean | null>(null)
watch(editing, (now, before) => {
  if (now && !before) choices.value = now.choices.join('\n')
  problem.value = null
  deleting.value = false
  blocked.value = null
  number.value = ''
})
const line = computed(() => editing.value?.line ?? null)

async function save() {
  const { name, label, kind } = editing.value!
  const body = { name, label, kind, choices: kind === 'choice' ? choices.value.split('\n') : [] }
  const before = line.value
  const keep = (id: number, input: FieldInput) => api('PUT /fields/:id', { at: { id }, body: input })
  if (!await attempt(() => before ? keep(before.id, body) : api('POST /fields', { body }))) return
  done()
  if (before) undo.did({ said: `The field “${name}” is saved.`, undo: async () => {
    await keep(before.id, { name: before.name, label: before.label, kind: before.kind, choices: [...before.choices] })
    emit('saved')
  } })
}
async function remove() {
  if (await attempt(() => api('DELETE /fields/:id', { at: { id: line.value!.id }, body: { known: Number(number.value) } }))) done()
}
function done() {
  editing.value = null
  emit('saved')
}
</script>

<template>
  <Dialog
    v-if="editing" visible modal :header="line ? `Change the field ${line.name}` : 'New field'" :style="{ width: '460px' }"
    @update:visible="editing = null">
    <form v-if="!deleting" class="fields" @submit.prevent="save">
      <div class="field">
        <label for="field-name">Name (only you see it)</label>
        <InputText
          id="field-name" v-model="editing.name" maxlength="80" autofocus placeholder="books bound" :invalid="!!problem?.of('name')" />
        <ProblemNote :of="problem" at="name" />
      </div>
      <div class="field">
        <label for="field-label">Question readers see</label>
        <InputText
          id="field-label" v-model="editing.label" maxlength="80" :placeholder="editing.name || 'How many books have you bound?'" />
      </div>
      <SelectField v-if="!line" v-model="editing.kind" label="Type" :options="KINDS">
        <p class="hint">The type cannot be changed later.</p>
      </SelectField>
      <p v-else class="second small">Holds {{ FIELD_KIND_WORDS[line.kind] }}; known for {{ sayPeople(line.people) }}.</p>
      <div v-if="editing.kind === 'choice'" class="field">
        <label for="field-choices">Choices, one per line</label>
        <Textarea id="field-choices" v-model="choices" rows="4" auto-resize :invalid="!!problem?.of('choices')" />
        <ProblemNote :of="problem" at="choices" />
      </div>
      <ProblemNote :of="problem" general />
      <div class="ends">
        <button v-if="line" type="button" class="link-button" @click="deleting = true">Delete this field</button><span v-else />
        <span class="last">
          <ThingActions v-if="line" :id="line.id" kind="field" @done="done" />
          <Button type="submit" :label="line ? 'Save the field' : 'Make the field'" :loading="busy" />
        </span>
      </div>
    </form>
    <form v-else-if="line" class="fields" @submit.prevent="remove">
      <UsesOf kind="field" :id="line.id" replaces @told="view => blocked = view.blocked" />
      <template v-if="blocked === false">
        <p>The values of {{ sayPeople(line.people) }} are deleted with it, for good. Histories keep what they say.</p>
        <div class="field">
          <label for="field-number">Type the number {{ line.people }} to delete it</label>
          <InputText id="field-number" v-model="number" inputmode="numeric" autofocus />
        </div>
      </template>
      <ProblemNote :of="problem" />
      <div class="ends">
        <button type="button" class="link-button" @click="deleting = false">Keep it</button>
        <Button
          v-if="blocked === false" type="submit" severity="danger" :label="`Delete the field ${line.name}`"
          :disabled="number.trim() !== String(line.people)" :loading="busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.last { display: flex; gap: 8px; }
.ends { display: flex; align-items: center; justify-content: space-between; gap: 12px; }
</style>
