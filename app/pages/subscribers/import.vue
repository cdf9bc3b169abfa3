<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Select from 'primevue/select'
import { ENCODING_WORDS, ENCODINGS, type Encoding } from '#core/exchange/encoding'
import { DELIMITER_WORDS, type Delimiter, type ImportColumn, type ImportSpec } from '#core/exchange/importing'
import type { Field } from '#core/people/field'
import { localOf } from '#core/time/zone'
import type { ImportPlan, ImportView } from '#core/views/imports'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useTask } from '~/composables/useTask'
import { saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import ImportColumns from '~/components/subscribers/ImportColumns.vue'
import ImportDrop from '~/components/subscribers/ImportDrop.vue'
import ImportPlanPanel from '~/components/subscribers/ImportPlanPanel.vue'
import ImportTerms, { type Terms } from '~/components/subscribers/ImportTerms.vue'
import PageHead from '~/components/PageHead.vue'
import TaskNote from '~/components/subscribers/TaskNote.vue'

const frame = useFrame()
const reading = useAttempt()
const planning = useAttempt()
const beginning = useAttempt()
const { task, follow } = useTask()

const file = ref<File | null>(null)
const view = ref<ImportView | null>(null)
const columns = ref<ImportColumn[]>([])
const fields = ref<Field[]>([])
const plan = ref<ImportPlan | null>(null)
const nobodyLeft = ref(false)
const planned = ref('')
const terms = ref<Terms>({
  consent: null, origin: '', wording: '', date: '', listIds: [], tagIds: [], source: '', starts: false, known: 'keep',
  oddCells: 'leave-out',
})

const loadFields = async () => fields.value = await api('GET /fields')

/** Brings the file in; a second time with another encoding or sign, where the guess was wrong. */
async function bring(dropped: File, as: { encoding?: Encoding, delimiter?: Delimiter } = {}) {
  await reading.attempt(async () => {
    const [read] = await Promise.all([api('POST /imports', { query: { name: dropped.name, ...as }, file: dropped }), loadFields()])
    file.value = dropped
    view.value = read
    columns.value = read.guess
    plan.value = null
    nobodyLeft.value = false
    task.value = null
    terms.value = {
      ...terms.value, source: terms.value.source || dropped.name.replace(/\.\w+$/, ''),
      date: terms.value.date || localOf(frame.rail!.now, frame.frame!.workspace.zone).date,
    }
  })
}
async function fieldMade() {
  const before = fields.value.map(({ id }) => id)
  await loadFields()
  const made = fields.value.find(({ id }) => !before.includes(id))
  const n = view.value!.columns.findIndex(({ name }) => name.toLowerCase() === made?.name.toLowerCase())
  if (made && n >= 0) {
    columns.value = columns.value.map((column, k) => k === n ? { ...column, target: { kind: 'field', fieldId: made.id } } : column)
  }
}

const spec = computed<ImportSpec | null>(() => {
  const { consent, origin, wording, date, ...rest } = terms.value
  return consent === null ? null : {
    ...rest, columns: columns.value, nobodyLeft: nobodyLeft.value,
    consent: consent === 'none' ? { kind: 'none' } : { kind: 'given', origin, wording, date },
  }
})
const stale = computed(() => plan.value !== null && planned.value !== JSON.stringify(spec.value))
const missing = ref<string | null>(null)
watch(() => terms.value.consent, () => missing.value = null)
async function look() {
  if (!spec.value) {
    missing.value = 'First say where consent came from.'
    return
  }
  const asked = JSON.stringify(spec.value)
  await planning.attempt(async () => {
    const answer = await api('POST /imports/:id/plan', {
      at: { id: view.value!.id }, body: spec.value!, asker: `import-${performance.timeOrigin}` })
    plan.value = answer
    planned.value = asked
  })
}
const begin = () => beginning.attempt(async () => {
  follow(await api('POST /imports/:id/begin', { at: { id: view.value!.id }, body: spec.value! }))
  view.value = null
})
const problem = computed(() => planning.problem.value ?? beginning.problem.value)
const refusal = computed(() => missing.value
  ?? (problem.value ? (problem.value.fields.length ? 'Something is still missing; it is marked.' : problem.value.message) : null))
const of = (field: string) => problem.value?.of(field)
const encodings = ENCODINGS.map(value => ({ value, name: ENCODING_WORDS[value] }))
const delimiters = (Object.keys(DELIMITER_WORDS) as Delimiter[]).map(value => ({ value, name: DELIMITER_WORDS[value] }))
</script>

<template>
  <div>
    <PageHead title="Import" :back="{ to: '/subscribers', name: 'Subscribers' }">
      {{ view ? `${view.fileName}: ${saySome(view.rows, 'row', 'rows')}.` : 'People from a table, with their details and consent.' }}
    </PageHead>
    <TaskNote v-if="task" :task="task" :closes="false" @begun="follow" @changed="follow" />
    <p v-if="reading.problem.value" class="note brick refused" role="alert">{{ reading.problem.value.message }}</p>
    <ImportDrop most="100 MB" v-if="!view" :busy="reading.busy.value" @file="one => bring(one)" />
    <div v-else class="columns two">
      <div class="stack">
        <ImportColumns
          v-model="columns" :columns="view.columns" :fields="fields" :problem="of('columns')" :overlooked="of('nobodyLeft')"
          v-model:nobody-left="nobodyLeft" @field-made="fieldMade" />
        <section class="panel panel-body read" aria-label="How the file is read">
          <span class="second small">Read as</span>
          <Select
            :model-value="view.encoding" :options="encodings" option-label="name" option-value="value" size="small" aria-label="Encoding"
            @update:model-value="encoding => bring(file!, { encoding, delimiter: view!.delimiter })" />
          <span class="second small">parted by</span>
          <Select
            :model-value="view.delimiter" :options="delimiters" option-label="name" option-value="value" size="small"
            aria-label="Column separator" @update:model-value="delimiter => bring(file!, { encoding: view!.encoding, delimiter })" />
          <button type="button" class="link-button" @click="view = null">Choose another file</button>
        </section>
        <ImportPlanPanel
          :plan="plan" :stale="stale" :counting="planning.busy.value" :busy="beginning.busy.value" :refusal="refusal" @look="look"
          @begin="begin" />
      </div>
      <div class="stack"><ImportTerms v-model="terms" :of="of" /></div>
    </div>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1.45fr) minmax(0, 1fr); }
.refused { margin-bottom: 12px; }
.read { display: flex; gap: 9px; align-items: center; flex-wrap: wrap; }
.read .link-button { margin-left: auto; }
@media (max-width: 1000px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
