<script setup lang="ts">
import { computed, ref } from 'vue'
import Checkbox from 'primevue/checkbox'
import Select from 'primevue/select'
import type { ImportColumn, Target } from '#core/exchange/importing'
import type { DateOrder, Field, FieldInput } from '#core/people/field'
import { FIELD_KIND_WORDS } from '#core/people/field'
import type { ImportView } from '#core/views/imports'
import FieldDialog from '~/components/FieldDialog.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Every column of the file with what stands in it and where it goes. */
const props = defineProps<{
  columns: ImportView['columns'], fields: Field[], problem: string | undefined, overlooked: string | undefined,
}>()
const chosen = defineModel<ImportColumn[]>({ required: true })
const nobodyLeft = defineModel<boolean>('nobodyLeft', { required: true })
const emit = defineEmits<{ fieldMade: [] }>()

const keyOf = (target: Target) => target.kind === 'field' ? `field ${target.fieldId}` : target.kind
const targetOf = (key: string): Target =>
  key.startsWith('field ') ? { kind: 'field', fieldId: Number(key.slice(6)) } : { kind: key as Exclude<Target['kind'], 'field'> }
const options = computed(() => [
  { value: 'nothing', name: 'skip this column' },
  { value: 'address', name: 'email address' },
  { value: 'first-name', name: 'first name' },
  { value: 'country', name: 'country' },
  { value: 'zone', name: 'time zone' },
  { value: 'tags', name: 'tags, by name' },
  { value: 'lists', name: 'lists, by name' },
  { value: 'lists-left', name: 'lists they left' },
  { value: 'status', name: 'active, unsubscribed, bounced…' },
  { value: 'unsubscribed', name: 'unsubscribed, where filled in' },
  { value: 'consent-date', name: 'date of consent' },
  ...props.fields.map(field => ({ value: `field ${field.id}`, name: `${field.name} (${FIELD_KIND_WORDS[field.kind]})` })),
  { value: 'new', name: 'a new field…' },
])
const ORDERS: { value: DateOrder, name: string }[] = [
  { value: 'day-month-year', name: 'day, month, year' }, { value: 'month-day-year', name: 'month, day, year' },
  { value: 'year-month-day', name: 'year, month, day' },
]
const hasDates = ({ target }: ImportColumn) =>
  target.kind === 'consent-date' || (target.kind === 'field' && props.fields.find(({ id }) => id === target.fieldId)?.kind === 'date')

const making = ref<FieldInput & { line: null } | null>(null)
const makingFor = ref<string>('')
function choose(n: number, key: string) {
  if (key === 'new') {
    makingFor.value = props.columns[n]!.name
    making.value = { name: makingFor.value, label: makingFor.value, kind: 'text', choices: [], line: null }
    return
  }
  chosen.value = chosen.value.map((column, k) => k === n ? { ...column, target: targetOf(key) } : column)
}
const order = (n: number, dateOrder: DateOrder) =>
  chosen.value = chosen.value.map((column, k) => k === n ? { ...column, dateOrder } : column)
</script>

<template>
  <section class="panel" aria-labelledby="columns">
    <h2 id="columns">Its columns</h2>
    <ProblemNote :of="problem" line class="row" />
    <div v-if="overlooked || nobodyLeft" class="row">
      <ProblemNote :of="overlooked" line />
      <label class="tick small"><Checkbox v-model="nobodyLeft" binary /> This column does not say who has left: import everyone as
        active</label>
    </div>
    <div class="rows">
      <div v-for="(column, n) in columns" :key="n" class="row column">
        <span class="name cut" :title="column.name">{{ column.name }}</span>
        <span class="second small cut samples">{{ column.samples.length ? column.samples.join(' · ') : 'empty throughout' }}</span>
        <span class="goes">
          <Select
            :model-value="keyOf(chosen[n]!.target)" :options="options" option-label="name" option-value="value" size="small"
            :aria-label="`Where ${column.name} goes`" @update:model-value="key => choose(n, key)" />
          <Select
            v-if="hasDates(chosen[n]!)" :model-value="chosen[n]!.dateOrder" :options="ORDERS" option-label="name" option-value="value"
            size="small" :aria-label="`How dates in ${column.name} are written`" @update:model-value="one => order(n, one)" />
        </span>
      </div>
    </div>
    <FieldDialog v-model="making" @saved="emit('fieldMade')" />
  </section>
</template>

<style scoped>
.rows { max-height: 420px; overflow: auto; }
.column {
  display: grid; grid-template-columns: minmax(0, 150px) minmax(0, 1fr) minmax(0, 220px); gap: 12px; align-items: center;
  padding-block: 7px;
}
.name { font-weight: 600; }
.goes { display: grid; grid-template-columns: minmax(0, 1fr); gap: 4px; }
.tick { display: flex; gap: 8px; align-items: center; }
@media (max-width: 760px) { .column { grid-template-columns: minmax(0, 1fr); gap: 4px; } }
</style>
