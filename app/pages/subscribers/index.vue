<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { ListedPerson, PeopleOrder, SubscribersView } from '#core/views/people'
import type { Status } from '#core/people/status'
import { sayDay } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAddress, useSearchBox } from '~/composables/useAddress'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, sayPeople, saySource } from '~/look/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import StatusChip from '~/components/StatusChip.vue'
import TablePages from '~/components/TablePages.vue'

const frame = useFrame()
const zone = computed(() => frame.frame?.workspace.zone ?? 'UTC')
const { values, set, question } = useAddress({ search: '', status: '', sort: 'newest', page: '0', tag: '', list: '', optin: '', course: '', is: '', step: '', number: '', trouble: '' })
const { data: view, problem } = useFresh(() => api<SubscribersView>(`subscribers?${question.value}`), () => question.value)

const typed = useSearchBox(() => values.value.search, search => set({ search }))

const standing = computed(() => {
  if (!view.value) return ''
  const { active, pending, resting, unsubscribed, bounced, complained } = view.value.counts
  const gone = unsubscribed + bounced + complained
  return [`${sayPeople(active)} can get mail`, pending > 0 && `${sayNumber(pending)} have not confirmed`, resting > 0 && `${sayNumber(resting)} are resting`, gone > 0 && `${sayNumber(gone)} are gone`]
    .filter(Boolean).join(', ') + '.'
})
const statuses = computed(() => {
  const counts = view.value?.counts
  return (['active', 'pending', 'resting', 'unsubscribed', 'bounced', 'complained'] as Status[])
    .filter(status => counts && (counts[status] > 0 || values.value.status === status))
    .map(status => ({ value: status as string, name: `${status}, ${sayNumber(counts![status])}` }))
})
const SORTS: { value: PeopleOrder, name: string }[] = [
  { value: 'newest', name: 'newest first' }, { value: 'oldest', name: 'oldest first' }, { value: 'address', name: 'by address' }, { value: 'name', name: 'by first name' },
]
const narrowed = computed(() => view.value?.narrowedTo ?? null)
const nothing = computed(() => view.value && view.value.total === 0)
const nobodyYet = computed(() => view.value && Object.values(view.value.counts).every(count => count === 0))
const everybody = () => set({ search: '', status: '', tag: '', list: '', optin: '', course: '', is: '', step: '', number: '', trouble: '' })
</script>

<template>
  <div>
    <PageHead title="Subscribers">{{ nobodyYet ? 'Nobody yet.' : standing }}</PageHead>
    <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>

    <section v-if="nobodyYet" class="panel panel-body">
      <h2>Let the first one in</h2>
      <p class="second">Publish an <NuxtLink to="/pages">opt-in page</NuxtLink> and open it like a visitor would. For example ada@example.com, first name Ada: she stands here a moment later, with the page she came from and what she agreed to.</p>
    </section>
    <template v-else-if="view">
      <p v-if="narrowed" class="note narrowed">Only those {{ narrowed }}: {{ sayPeople(view.total) }}. <button type="button" class="link-button" @click="everybody">Show everybody</button></p>
      <section class="panel">
        <div class="filters">
          <InputText v-model="typed" placeholder="part of an address or name" aria-label="Find by address or name" maxlength="200" />
          <Select :model-value="values.status || null" :options="statuses" option-label="name" option-value="value" placeholder="any status" show-clear aria-label="Status" @update:model-value="status => set({ status: status ?? '' })" />
          <Select :model-value="values.sort" :options="SORTS" option-label="name" option-value="value" aria-label="Order" class="sort" @update:model-value="sort => set({ sort })" />
        </div>
        <DataTable v-if="!nothing" :value="view.rows" data-key="id" scrollable scroll-height="calc(100vh - var(--rail) - 236px)" @row-click="({ data }) => navigateTo(`/subscribers/${data.id}`)">
          <Column header="Address"><template #body="{ data }: { data: ListedPerson }"><NuxtLink :to="`/subscribers/${data.id}`" class="address">{{ data.address }}</NuxtLink></template></Column>
          <Column header="First name"><template #body="{ data }: { data: ListedPerson }">{{ data.firstName }}</template></Column>
          <Column header="Status"><template #body="{ data }: { data: ListedPerson }"><StatusChip :status="data.status" /></template></Column>
          <Column header="Tags"><template #body="{ data }: { data: ListedPerson }"><span class="second cut tags" :title="data.tags ?? undefined">{{ data.tags }}</span></template></Column>
          <Column header="Came by"><template #body="{ data }: { data: ListedPerson }"><span class="second">{{ saySource(data.source) }}</span></template></Column>
          <Column header="Since" header-class="number" body-class="number"><template #body="{ data }: { data: ListedPerson }">{{ sayDay(data.createdAt, zone) }}</template></Column>
        </DataTable>
        <div v-else class="panel-body second">
          <p>Nobody fits. <Button label="Show everybody" severity="secondary" size="small" @click="everybody" /></p>
        </div>
        <TablePages :page="Number(values.page)" :page-size="view.pageSize" :total="view.total" :shown="view.rows.length" one="person" many="people" @go="page => set({ page: String(page) })" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.narrowed { margin-bottom: 12px; }
.filters { display: flex; gap: 8px; padding: 10px 12px; border-bottom: 1px solid var(--p-porch-line-light); flex-wrap: wrap; }
.filters > input { width: 260px; }
.sort { margin-left: auto; }
.address { font-weight: 600; }
.tags { display: block; max-width: 300px; }
:deep(tr) { cursor: pointer; }
:deep(td) { white-space: nowrap; }
@media (max-width: 760px) { .filters > * { width: 100% !important; margin: 0; } }
</style>
