<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Select from 'primevue/select'
import InputText from 'primevue/inputtext'
import type { Condition } from '#core/audience/condition'
import type { PeopleOrder } from '#core/views/people'
import type { Status } from '#core/people/status'
import { api } from '~/composables/useApi'
import { useAddress, useSearchBox } from '~/composables/useAddress'
import { useFresh } from '~/composables/useFresh'
import { provideParts } from '~/composables/useParts'
import { sayNumber, sayPeople } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import ColumnPicker from '~/components/subscribers/ColumnPicker.vue'
import { ConditionEditor } from '~/editor/lazy'
import PageHead from '~/components/PageHead.vue'
import PeopleTable from '~/components/subscribers/PeopleTable.vue'
import TablePages from '~/components/TablePages.vue'
import SentenceBar from '~/components/subscribers/SentenceBar.vue'
import TaskNote from '~/components/subscribers/TaskNote.vue'
import { useColumns } from '~/composables/useColumns'
import { useTask } from '~/composables/useTask'
import type { TaskView } from '#core/views/tasks'

const frame = useFrame()
const zone = computed(() => frame.zone)
const NARROWING = {
  where: '', status: '', tag: '', list: '', segment: '', optin: '', course: '', is: '', step: '', number: '', trouble: '', held: '',
  broadcast: '', who: '',
}
const { values, set, question } = useAddress({ ...NARROWING, search: '', sort: 'newest', page: '0' })
const { data: view, problem } = useFresh(
  () => api('GET /subscribers', { query: question.value, asker: `subscribers-${performance.timeOrigin}` }), () => question.value,
)
/** How many there are in all; null while that is being counted. */
const counting = computed(() => {
  const { page: _, sort: __, ...narrowed } = question.value
  return narrowed
})
const { data: counted } = useFresh(async () => {
  const query = counting.value
  return { asked: JSON.stringify(query), ...await api('GET /subscribers/count', { query, asker: `count-${performance.timeOrigin}` }) }
}, () => counting.value)
const total = computed(() => counted.value?.asked === JSON.stringify(counting.value) ? counted.value.total : null)
const { parts } = provideParts()
const { columns, shown } = useColumns(parts)
// The same list until it changes: the whole table is drawn anew with another one.
const drawn = computed(() => columns.value.filter(column => shown.value.includes(column.id)))

const typed = useSearchBox(() => values.value.search, search => set({ search }))

const standing = computed(() => {
  if (!counted.value) return 'Being counted.'
  const { active, pending, resting, unsubscribed, bounced, complained } = counted.value.counts
  const gone = unsubscribed + bounced + complained
  return [
    `${sayPeople(active)} can get mail`, pending > 0 && `${sayNumber(pending)} have not confirmed`,
    resting > 0 && `${sayNumber(resting)} are resting`, gone > 0 && `${sayNumber(gone)} are inactive`,
  ]
    .filter(Boolean).join(', ') + '.'
})
const statuses = computed(() => {
  const counts = counted.value?.counts
  return (['active', 'pending', 'resting', 'unsubscribed', 'bounced', 'complained'] as Status[])
    .filter(status => counts && (counts[status] > 0 || values.value.status === status))
    .map(status => ({ value: status as string, name: `${status}, ${sayNumber(counts![status])}` }))
})
const SORTS: { value: PeopleOrder, name: string }[] = [
  { value: 'newest', name: 'newest first' }, { value: 'oldest', name: 'oldest first' }, { value: 'address', name: 'by address' },
  { value: 'name', name: 'by first name' },
]
const nothing = computed(() => view.value && view.value.rows.length === 0)
const nobodyYet = computed(() => counted.value && Object.values(counted.value.counts).every(count => count === 0))
const everybody = () => {
  narrowing.value = false
  return set({ search: '', ...NARROWING })
}

/* What is done with them */
const picked = ref<number[]>([])
const { task, follow } = useTask()
watch(() => JSON.stringify(counting.value), () => picked.value = [])
function begun(next: TaskView) {
  picked.value = []
  follow(next)
}

/* Narrowing by any condition: what is changed in the editor goes into the address, and the table follows. */
const narrowing = ref(false)
const condition = ref<Condition | null>(null)
function beginNarrowing() {
  condition.value = view.value ? JSON.parse(JSON.stringify(view.value.condition)) as Condition : null
  narrowing.value = true
}
watchDebounced(condition, (now, before) => {
  if (narrowing.value && now && before) void set({ ...NARROWING, where: JSON.stringify(now) })
}, { debounce: 250 })
const saveAsSegment = () => navigateTo({ path: '/segments/new', query: { where: JSON.stringify(view.value!.condition) } })
</script>

<template>
  <div>
    <PageHead title="Subscribers" how="subscriber">
      {{ nobodyYet ? 'Nobody yet.' : standing }}
      <template #actions>
        <NuxtLink to="/subscribers/done" class="done">Bulk changes</NuxtLink>
        <Button severity="secondary" icon="pi pi-upload" label="Import" @click="navigateTo('/subscribers/import')" />
      </template>
    </PageHead>
    <p v-if="problem" class="note brick" role="alert">
      {{ problem }} <button type="button" class="link-button" @click="everybody">Show everyone</button>
    </p>

    <section v-if="nobodyYet" class="panel panel-body">
      <h2>Get your first subscriber</h2>
      <p class="second">Publish an <NuxtLink to="/pages">opt-in page</NuxtLink> and open it as a visitor would. Sign up, for example, as
        ada@example.com, and Ada appears here a moment later with her source and consent.</p>
    </section>
    <template v-else-if="view">
      <TaskNote v-if="task" :task="task" @begun="follow" @changed="follow" @close="task = null" />
      <section v-if="narrowing && parts && condition" class="panel panel-body narrowing" aria-label="Filter the table">
        <ConditionEditor v-model="condition" :segment-id="null" />
        <div class="end">
          <Button severity="secondary" label="Save as a segment" @click="saveAsSegment" />
          <Button severity="secondary" label="Done" @click="narrowing = false" />
        </div>
      </section>
      <p v-else-if="view.narrowedTo" class="note narrowed">Only people {{ view.narrowedTo }}:
        {{ total === null ? 'being counted' : sayPeople(total) }}. <button type="button" class="link-button" @click="beginNarrowing">Change
          this</button> <button type="button" class="link-button" @click="everybody">Show everyone</button></p>
      <section class="panel">
        <div class="filters">
          <InputText v-model="typed" placeholder="part of an address or name" aria-label="Find by address or name" maxlength="200" />
          <Select
            :model-value="values.status || null" :options="statuses" option-label="name" option-value="value" placeholder="any status"
            show-clear aria-label="Status" @update:model-value="status => set({ status: status ?? '' })" />
          <Button
            severity="secondary" label="Filter" icon="pi pi-filter" :aria-expanded="narrowing"
            @click="narrowing ? narrowing = false : beginNarrowing()" />
          <span class="right">
            <ColumnPicker v-model="shown" :columns="columns" />
            <Select
              :model-value="values.sort" :options="SORTS" option-label="name" option-value="value" aria-label="Order"
              @update:model-value="sort => set({ sort })" />
          </span>
        </div>
        <SentenceBar
          v-if="parts && !nothing" :total="total" :picked="picked" :query="question" :columns="shown" :parts="parts" @begun="begun" />
        <PeopleTable
          v-if="!nothing" v-model:picked="picked" :rows="view.rows" :held-back="view.heldBack" :columns="drawn" :zone="zone"
          :taken="280 + (view.narrowedTo ? 56 : 0) + (task ? 70 : 0)" />
        <div v-else class="panel-body second">
          <p>Nobody fits. <Button label="Show everyone" severity="secondary" size="small" @click="everybody" /></p>
        </div>
        <TablePages
          :page="Number(values.page)" :page-size="view.pageSize" :total="total" :shown="view.rows.length" one="person" many="people"
          @go="page => set({ page: String(page) })" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.done { align-self: center; margin-right: 8px; }
.narrowed, .narrowing { margin-bottom: 12px; }
.narrowed .link-button { margin-left: 10px; }
.end { display: flex; justify-content: flex-end; gap: 8px; padding-top: 10px; }
.filters { display: flex; gap: 8px; padding: 10px 12px; border-bottom: 1px solid var(--p-porch-line-light); flex-wrap: wrap; }
.filters > input { width: 230px; }
.right { display: flex; gap: 8px; margin-left: auto; }
@media (max-width: 760px) { .filters > * { width: 100% !important; margin: 0; } }
</style>
