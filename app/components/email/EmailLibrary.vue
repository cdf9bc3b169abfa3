<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { EmailLine } from '#core/views/email'
import { saySome } from '#core/stats/say'
import { sayDay } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import SendSign from '~/components/SendSign.vue'
import StateDot from '~/components/StateDot.vue'

/** Every email that is written, wherever it is used. */
const frame = useFrame()
const { data: emails, problem } = useFresh(() => api('GET /emails'))
async function begin() {
  const { id } = await api('POST /email-drafts', { body: { content: null } })
  await navigateTo(`/email-drafts/${id}`)
}
const sought = ref('')
const kind = ref<string | null>(null)
const state = ref<boolean | null>(null)
const kinds = computed(() => [...new Set(emails.value?.map(one => one.kind) ?? [])].sort())
const STATES = [{ value: true, name: 'Live' }, { value: false, name: 'Draft' }]
const letters = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
const found = computed(() => {
  const words = letters(sought.value).split(/\s+/).filter(Boolean)
  return (emails.value ?? []).filter((one) => {
    const text = letters([one.title, one.subject, one.of, one.words, ...one.asks, ...one.tags].join(' '))
    return (kind.value === null || one.kind === kind.value) && (state.value === null || one.isLive === state.value)
      && words.every(word => text.includes(word))
  })
})
/** The words around what was sought. */
function around({ words }: EmailLine): string {
  const first = letters(sought.value).split(/\s+/).find(Boolean)
  const at = first ? letters(words).indexOf(first) : -1
  return at < 0 ? '' : `…${words.slice(Math.max(0, at - 30), at + 60).replace(/\s+/g, ' ')}…`
}
const COLUMNS: PlainColumn[] = [
  { key: 'email', head: 'Email', class: 'wide' }, { key: 'where', head: 'Where' }, { key: 'state', head: 'State' },
  { key: 'asks', head: 'Call to action' },
  { key: 'tags', head: 'Adds the tags' }, { key: 'last', head: 'Last sent', class: 'number' },
]
</script>

<template>
  <ProblemNote :of="problem" />
  <template v-if="emails">
    <div class="bar">
      <InputText v-model="sought" size="small" placeholder="words, subject, tag" aria-label="Find an email" />
      <Select v-model="kind" :options="kinds" size="small" show-clear placeholder="any kind" aria-label="Kind of email" />
      <Select
        v-model="state" :options="STATES" option-label="name" option-value="value" size="small" show-clear placeholder="any state"
        aria-label="State" />
      <Button label="New draft" size="small" severity="secondary" @click="begin" />
      <span class="second small" role="status">{{ saySome(found.length, 'email', 'emails') }}</span>
    </div>
    <div class="panel">
      <PlainTable :rows="found" :columns="COLUMNS">
        <template #email="{ row }">
          <NuxtLink :to="row.to"><strong>{{ row.title || 'not written yet' }}</strong></NuxtLink>
          <p v-if="row.subject && row.subject !== row.title" class="second small">{{ row.subject }}</p>
          <p v-if="around(row)" class="second small">{{ around(row) }}</p>
        </template>
        <template #where="{ row }">
          <span class="where"><SendSign v-if="row.sendKind" :kind="row.sendKind" /> {{ row.of }}</span>
          <span class="second small">{{ row.kind }}</span>
        </template>
        <template #state="{ row }"><StateDot :is="row.isLive ? 'on' : 'off'" :words="row.isLive ? 'Live' : 'Draft'" /></template>
        <template #asks="{ row }"><span class="small">{{ row.asks.join(', ') }}</span></template>
        <template #tags="{ row }"><span class="small">{{ row.tags.join(', ') }}</span></template>
        <template #last="{ row }">
          {{ row.lastAt === null ? '' : sayDay(row.lastAt, frame.zone) }}
        </template>
      </PlainTable>
      <p v-if="found.length === 0" class="panel-body second">No email has that.</p>
    </div>
  </template>
</template>

<style scoped>
.bar { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin-bottom: 12px; }
.bar :deep(.p-inputtext) { width: 260px; }
.where { display: flex; gap: 6px; align-items: baseline; }
</style>
