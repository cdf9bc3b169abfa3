<script setup lang="ts">
import { onMounted, ref } from 'vue'
import Button from 'primevue/button'
import type { Condition } from '#core/audience/condition'
import type { FieldInput } from '#core/people/field'
import { FIELD_KIND_WORDS } from '#core/people/field'
import type { FieldLine } from '#core/views/audience'
import { api } from '~/composables/useApi'
import { useShelf } from '~/composables/useArchive'
import FieldDialog from './FieldDialog.vue'
import PeopleNumber from './PeopleNumber.vue'
import ShelfSwitch from './ShelfSwitch.vue'
import UsedBy from './UsedBy.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The typed facts about people. */
const lines = ref<FieldLine[] | null>(null)
const problem = ref<string | null>(null)
const editing = ref<FieldInput & { line: FieldLine | null } | null>(null)
async function load() {
  try {
    lines.value = await api('GET /fields')
    problem.value = null
  }
  catch (error) {
    problem.value = (error as Error).message
  }
}
onMounted(load)
const { shown, away, showsAway } = useShelf('field', () => lines.value)
const change = (line: FieldLine) =>
  editing.value = { name: line.name, label: line.label, kind: line.kind, choices: [...line.choices], line }
const make = () => editing.value = { name: '', label: '', kind: 'text', choices: [], line: null }
const whoKnown = (fieldId: number) => ({
  where: JSON.stringify({ kind: 'all', of: [{ kind: 'field', fieldId, test: { is: 'known' } }] } satisfies Condition),
})

const COLUMNS: PlainColumn[] = [
  { key: 'field', head: 'Field', class: 'whole' },
  { key: 'holds', head: 'Holds', class: 'whole' },
  { key: 'whatReadersSee', head: 'What readers see' },
  { key: 'usedBy', head: 'Used by' },
  { key: 'knownOf', head: 'Known of', class: 'number' },
]
</script>

<template>
  <section class="panel" aria-labelledby="fields">
    <div class="panel-head">
      <h2 id="fields">Fields</h2>
      <Button id="new-field" data-opens label="New field" severity="secondary" size="small" @click="make" />
    </div>
    <ProblemNote :of="problem" line class="row" />
    <PlainTable v-if="shown.length" :rows="shown" :columns="COLUMNS">
      <template #field="{ row }"><button type="button" class="link-button name" @click="change(row)">{{ row.name }}</button></template>
      <template #holds="{ row }"><span class="second">{{ FIELD_KIND_WORDS[row.kind] }}</span></template>
      <template #whatReadersSee="{ row }">
        {{ row.label }}<span v-if="row.choices.length" class="second small sub">{{ row.choices.join(', ') }}</span>
      </template>
      <template #usedBy="{ row }"><UsedBy :uses="row.uses" /></template>
      <template #knownOf="{ row }"><PeopleNumber :people="row.people" :query="whoKnown(row.id)" /></template>
    </PlainTable>
    <p v-else-if="lines?.length === 0" class="panel-body second">A field holds one fact about each person: text, a number, a date, yes or
      no, or one of several choices. For example “books bound”, a number, or “has a press”, yes or no.</p>
    <ShelfSwitch v-model="showsAway" :away="away.length" />
    <FieldDialog v-model="editing" @saved="load" />
  </section>
</template>

<style scoped>
.name { color: var(--p-porch-door); text-align: left; }
.sub { display: block; }
</style>
