<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import { RouterLink } from 'vue-router'
import { sayCountry } from '#core/people/country'
import { sayField } from '#core/people/field'
import { sayDay } from '#core/time/say'
import type { ListedPerson } from '#core/views/people'
import type { PeopleColumn } from '~/composables/useColumns'
import { saySource } from '#core/people/source'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import StatusChip from '~/components/StatusChip.vue'

/** One page of subscribers, a line each. */
const props = defineProps<{
  rows: ListedPerson[], /** Why an email of theirs was held back, where that is asked. */ heldBack?: Record<number, string> | null,
  columns: PeopleColumn[], zone: string, taken: number,
}>()
const picked = defineModel<number[]>('picked', { required: true })
const all = computed(() => props.rows.length > 0 && props.rows.every(({ id }) => picked.value.includes(id)))
const pick = (id: number, on: boolean) => picked.value = on ? [...picked.value, id] : picked.value.filter(other => other !== id)
function pickAll(on: boolean) {
  const shown = props.rows.map(({ id }) => id)
  picked.value = [...picked.value.filter(id => !shown.includes(id)), ...on ? shown : []]
}

const NUMBERS = ['since', 'read', 'consent']
const isNumber = ({ id, field }: PeopleColumn) => NUMBERS.includes(id) || field?.kind === 'number' || field?.kind === 'date'
/** What is said in words; a status has a sign of its own. */
const said = computed(() => props.columns.filter(({ id }) => id !== 'status'))
const head = computed<PlainColumn[]>(() => [
  { key: 'pick', head: '', class: 'pick' },
  { key: 'address', head: 'Address', class: 'whole' },
  ...props.heldBack ? [{ key: 'held', head: 'Held back' }] : [],
  ...props.columns.map(column => ({ key: column.id, head: column.name, class: isNumber(column) ? 'number whole' : 'whole' })),
])

function say(person: ListedPerson, column: PeopleColumn): string {
  if (column.field) {
    const value = person.fields[column.field.id]
    return value === undefined ? '' : sayField(column.field.kind, value)
  }
  switch (column.id) {
    case 'firstName': return person.firstName
    case 'tags': return person.tags.join(', ')
    case 'lists': return person.lists.join(', ')
    case 'source': return saySource(person.source)
    case 'country': return person.country ? sayCountry(person.country) : ''
    case 'zone': return person.zone?.replaceAll('_', ' ') ?? ''
    case 'consent': return person.consentAt === null ? 'none' : sayDay(person.consentAt, props.zone)
    case 'read': return person.readAt === null ? '' : sayDay(person.readAt, props.zone)
    case 'since': return sayDay(person.createdAt, props.zone)
    default: return ''
  }
}
</script>

<template>
  <PlainTable
    :rows="rows" :columns="head" :height="`calc(100vh - var(--rail) - ${taken}px)`" :class="['opens', { tight: heldBack }]"
    @open="({ id }) => navigateTo(`/subscribers/${id}`)">
    <template #head-pick>
      <input
        type="checkbox" :checked="all" aria-label="Select everyone on this page"
        @change="event => pickAll((event.target as HTMLInputElement).checked)" />
    </template>
    <template #pick="{ row }">
      <input
        type="checkbox" :checked="picked.includes(row.id)" :aria-label="`Pick ${row.address}`"
        @click.stop @change="event => pick(row.id, (event.target as HTMLInputElement).checked)" />
    </template>
    <template #address="{ row }">
      <RouterLink :to="`/subscribers/${row.id}`" class="address" @click.stop>{{ row.address }}</RouterLink>
    </template>
    <template #held="{ row }">{{ heldBack?.[row.id] ?? '' }}</template>
    <template #status="{ row }"><StatusChip :status="row.status" /></template>
    <template v-for="column in said" :key="column.id" #[column.id]="{ row }">
      <span class="cut cell" :class="{ second: column.id !== 'firstName' }" :title="say(row, column)">{{ say(row, column) }}</span>
    </template>
  </PlainTable>
</template>

<style scoped>
.address { font-weight: 600; }
.cell { display: block; max-width: min(16vw, 280px); }
/* One column more. */
.tight .cell { max-width: min(9vw, 200px); }
:deep(.pick) { width: 34px; padding-right: 0; }
input { width: 18px; height: 18px; margin: 0; vertical-align: -4px; accent-color: var(--p-porch-door); cursor: pointer; }
</style>
