<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import { rateOf } from '#core/stats/rate'
import { sayNumber, sayRate, saySome } from '#core/stats/say'
import { sayDay, sayTime } from '#core/time/say'
import type { Instant } from '#core/time/zone'
import type { BroadcastLine } from '#core/views/broadcast'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import ImportDialog from '~/components/broadcast/ImportDialog.vue'
import RateDots from '~/components/broadcast/RateDots.vue'
import { DOT_OF_STATE, sayState } from '~/components/broadcast/states'
import ListPage from '~/components/ListPage.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import StateDot from '~/components/StateDot.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

const frame = useFrame()
const { data: broadcasts, problem } = useFresh(() => api('GET /broadcasts'))
const standing = computed(() => {
  const all = broadcasts.value
  if (!all) return ''
  if (all.length === 0) return 'One email to many people, once.'
  const sent = all.filter(({ state }) => state === 'sent')
  const ahead = all.filter(({ state }) => state === 'scheduled').length
  return `${saySome(sent.length, 'broadcast was', 'broadcasts were')} sent${ahead > 0 ? `, ${sayNumber(ahead)} scheduled` : ''}.`
})
const columns: PlainColumn[] = [
  { key: 'broadcast', head: 'Broadcast' }, { key: 'asks', head: 'Asks readers to' }, { key: 'when', head: 'When' },
  { key: 'sent', head: 'Sent', class: 'number' }, { key: 'rates', head: 'Clicks ● and reader opens ○', class: 'wide' },
  { key: 'left', head: 'Unsubscribed', class: 'number' },
]
const sayAt = (at: Instant) => `${sayDay(at, frame.zone)}, ${sayTime(at, frame.zone)}`
/** The same axis for all. */
const most = computed(() => Math.max(0.2, ...(broadcasts.value ?? []).flatMap(row => ratesOf(row).map(({ of }) => of.high ?? 0))))
const ratesOf = ({ progress, opened, clicked }: BroadcastLine) => progress && progress.handedOver > 0 ? [
  { name: 'clicks', of: rateOf(clicked ?? 0, progress.handedOver), filled: true },
  { name: 'reader opens', of: rateOf(opened ?? 0, progress.handedOver), filled: false },
] : []
const STATES = [
  { name: 'Drafts', is: ({ state }: BroadcastLine) => state === 'draft' },
  { name: 'Scheduled', is: ({ state }: BroadcastLine) => state === 'scheduled' },
  { name: 'On their way', is: ({ state }: BroadcastLine) => state === 'sending' || state === 'paused' },
  { name: 'Sent', is: ({ state }: BroadcastLine) => state === 'sent' || state === 'stopped' },
]
const share = ({ clicked, opened, progress }: BroadcastLine, what: 'clicked' | 'opened') =>
  progress && progress.handedOver > 0 ? ((what === 'clicked' ? clicked : opened) ?? 0) / progress.handedOver : -1
const ORDERS = [
  { name: 'Latest first', compare: (a: BroadcastLine, b: BroadcastLine) => (b.dueAt ?? Infinity) - (a.dueAt ?? Infinity) },
  { name: 'Most clicks first', compare: (a: BroadcastLine, b: BroadcastLine) => share(b, 'clicked') - share(a, 'clicked') },
  { name: 'Most reader opens first', compare: (a: BroadcastLine, b: BroadcastLine) => share(b, 'opened') - share(a, 'opened') },
]

const { busy, problem: notMade, attempt } = useAttempt()
async function begin() {
  let id = 0
  if (!await attempt(async () => {
    id = (await api('POST /broadcasts', { body: { from: null } })).id
  })) return
  await frame.changed()
  await navigateTo(`/broadcasts/${id}?part=email`)
}
const importing = ref(false)
if (useRoute().query.at === 'new-broadcast') void begin()
</script>

<template>
  <ListPage
    title="Broadcasts" how="broadcast" :standing="standing" kind="broadcast" :rows="broadcasts" :problem="problem" :columns="columns"
    to="/broadcasts" :states="STATES" :orders="ORDERS" :find="{ by: ({ name, subject }) => [name, subject], words: 'names and subjects' }">
    <template #actions>
      <Button label="Import" icon="pi pi-upload" severity="secondary" @click="importing = true" />
      <Button id="new-broadcast" label="New broadcast" :loading="busy" @click="begin" />
    </template>
    <template #before>
      <ProblemNote v-if="notMade" :of="notMade" />
      <ImportDialog v-if="importing" v-model:visible="importing" />
    </template>
    <template #none>
      <h2>Write the first broadcast</h2>
      <p class="second">For example, to everybody on your list who likes marbling: six new papers have come in. You see who gets it, who is
        held back and why, before anything leaves.</p>
    </template>
    <template #broadcast="{ row }">
      <NuxtLink :to="`/broadcasts/${row.id}`" class="name">{{ row.name }}</NuxtLink>
      <span class="sub small under">
        <StateDot :is="DOT_OF_STATE[row.state]" :words="sayState(row)" />
        <span v-if="row.subject && row.subject !== row.name" class="second cut">{{ row.subject }}</span>
      </span>
    </template>
    <template #asks="{ row }"><span class="second small cut asks">{{ row.asks[0] ?? '' }}</span></template>
    <template #when="{ row }"><span v-if="row.dueAt !== null" class="when">{{ sayAt(row.dueAt) }}</span></template>
    <template #sent="{ row }">
      <template v-if="row.progress">
        <strong class="big">{{ sayNumber(row.progress.handedOver) }}</strong>
        <span v-if="row.progress.heldBack > 0" class="second small sub">{{ sayNumber(row.progress.heldBack) }} held back</span>
      </template>
    </template>
    <template #rates="{ row }">
      <RateDots v-if="ratesOf(row).length" :most="most" :rates="ratesOf(row)" />
    </template>
    <template #left="{ row }">
      <template v-if="row.progress && row.progress.handedOver > 0">{{ sayNumber(row.left ?? 0) }}
        <span class="second small sub">{{ sayRate(rateOf(row.left ?? 0, row.progress.handedOver)) }}</span></template>
    </template>
    <template #after>
      <p v-if="broadcasts?.length" class="second small">Rates are of emails sent; lines show the likely range. Reader opens leave out what
        programs opened.</p>
    </template>
  </ListPage>
</template>

<style scoped>
.name { font: 650 16px/1.35 var(--heading); color: var(--p-porch-ink); text-decoration: none; }
.name:hover { text-decoration: underline; }
.sub { display: block; }
.under { display: flex; gap: 10px; align-items: baseline; }
.under .cut { max-width: 190px; }
.asks { display: block; max-width: 128px; }
.big { font: 650 18px/1.3 var(--heading); }
.when { white-space: nowrap; }
</style>
