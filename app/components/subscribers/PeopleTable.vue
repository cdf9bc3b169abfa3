<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Checkbox from 'primevue/checkbox'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { sayCountry } from '#core/people/country'
import { sayField } from '#core/people/field'
import { sayDay } from '#core/time/say'
import type { ListedPerson } from '#core/views/people'
import type { PeopleColumn } from '~/composables/useColumns'
import { saySource } from '#core/people/source'
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
  <DataTable
    :value="rows" data-key="id" :class="{ tight: heldBack }" scrollable :scroll-height="`calc(100vh - var(--rail) - ${taken}px)`"
    @row-click="({ data }) => navigateTo(`/subscribers/${data.id}`)">
    <Column header-class="pick" body-class="pick"><template #header><Checkbox :model-value="all" binary aria-label="Pick everybody on this page" @update:model-value="pickAll" /></template><template #body="{ data }: { data: ListedPerson }"><span @click.stop><Checkbox :model-value="picked.includes(data.id)" binary :aria-label="`Pick ${data.address}`" @update:model-value="on => pick(data.id, on)" /></span></template></Column>
    <Column header="Address"><template #body="{ data }: { data: ListedPerson }"><NuxtLink :to="`/subscribers/${data.id}`" class="address">{{ data.address }}</NuxtLink></template></Column>
    <Column v-if="heldBack" header="Held back">
      <template #body="{ data }: { data: ListedPerson }">{{ heldBack[data.id] ?? '' }}</template>
    </Column>
    <Column v-for="column in columns" :key="column.id" :header="column.name" :header-class="isNumber(column) ? 'number' : ''" :body-class="isNumber(column) ? 'number' : ''">
      <template #body="{ data }: { data: ListedPerson }">
        <StatusChip v-if="column.id === 'status'" :status="data.status" />
        <span v-else class="cut cell" :class="{ second: column.id !== 'firstName' }" :title="say(data, column)">{{ say(data, column) }}</span>
      </template>
    </Column>
  </DataTable>
</template>

<style scoped>
.address { font-weight: 600; }
.cell { display: block; max-width: min(16vw, 280px); }
/* One column more. */
.tight .cell { max-width: min(9vw, 200px); }
:deep(tr) { cursor: pointer; }
:deep(td) { white-space: nowrap; }
:deep(.pick) { width: 34px; padding-right: 0; }
</style>
