<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from '#imports'
import Select from 'primevue/select'
import { sayMoney, type Money } from '#core/money/money'
import { sayDay, sayMoment, sayZone } from '#core/time/say'
import type { SalesView, SaleState } from '#core/views/offers'
import { useAddress } from '~/composables/useAddress'
import { api, hrefOf } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayInterval, sayNumber, sayRate, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import SalesParts from '~/components/offer/SalesParts.vue'
import TablePages from '~/components/TablePages.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const id = Number(useRoute().params.id)
const frame = useFrame()
const zone = computed(() => frame.zone)
const { values, set, question } = useAddress({ days: '28', state: 'bought', coupon: '', source: '', word: '', email: '', page: '0' })
const { data: view, problem } = useFresh(() => api('GET /offers/:id/sales', { at: { id }, query: question.value }), () => question.value)
const STRETCHES = [7, 28, 90, 365, 730].map(days => ({ value: String(days), name: `the last ${days} days` }))

const STATE_WORDS: Record<SaleState, string> = {
  bought: 'All purchases', owned: 'Theirs now', refunded: 'Refunded', disputed: 'Disputed',
  refused: 'Payment refused', over: 'Ended', began: 'Everyone who went to checkout', abandoned: 'Abandoned',
}
const states = computed(() => (Object.keys(STATE_WORDS) as SaleState[]).map(value => ({
  value, name: `${STATE_WORDS[value]} (${sayNumber(view.value?.counts[value] ?? 0)})`,
})))
/** What the list is narrowed to besides the state, in words. */
const narrowed = computed(() => {
  if (!view.value) return []
  const { coupon, source, word, email } = values.value
  const said = (parts: SalesView['byCoupon'], key: string) => parts.find(part => part.key === key)?.says ?? key
  return [
    coupon && said(view.value.byCoupon, coupon), source && said(view.value.bySource, `${source} ${word}`),
    email && said(view.value.byEmail, email),
  ].filter(Boolean)
})
const all = { state: 'bought', coupon: '', source: '', word: '', email: '' }
const only = (state: SaleState) => set({ ...all, state })
function sourceOf(key: string) {
  const [kind = '', ...words] = key.split(' ')
  set({ ...all, source: kind, word: words.join(' ') })
}
const sums = (money: Money[]) => money.map(sayMoney).join(' and ')

const COLUMNS: PlainColumn[] = [
  { key: 'when', head: 'When' },
  { key: 'who', head: 'Buyer' },
  { key: 'amount', head: 'Amount', class: 'number' },
  { key: 'status', head: 'Status' },
  { key: 'coupon', head: 'Coupon' },
  { key: 'broughtBy', head: 'Source and email' },
]
const brought = ({ source, email }: { source: string | null, email: string | null }) => [source, email].filter(Boolean).join('; ')
</script>

<template>
  <ProblemNote v-if="problem" :of="problem" />
  <div v-else-if="view">
    <PageHead how="sales" :title="`Sales: ${view.name}`" :back="{ to: `/offers/${id}`, name: view.name }">
      From {{ sayDay(view.from, zone) }} to {{ sayDay(view.to - 1, zone) }}, {{ sayZone(zone) }}.
      <template #actions>
        <a :href="hrefOf('GET /offers/:id/sales-file', { at: { id } })" download class="file">All of them as CSV</a>
        <Select
          :model-value="values.days" :options="STRETCHES" option-label="name" option-value="value" aria-label="Which days"
          @update:model-value="days => set({ days })" />
      </template>
    </PageHead>

    <div class="figures">
      <div><p class="big">{{ sayNumber(view.visits) }}</p><p class="second">{{ view.visits === 1 ? 'visit' : 'visits' }}</p></div>
      <div>
        <p class="big"><button type="button" class="open" @click="only('began')">{{ sayNumber(view.began) }}</button></p>
        <p class="second">went to checkout<template v-if="view.counts.abandoned">;
          <button type="button" class="open" @click="only('abandoned')">{{ sayNumber(view.counts.abandoned) }}</button> abandoned
          it</template></p>
      </div>
      <div>
        <p class="big"><button type="button" class="open" @click="only('bought')">{{ sayNumber(view.counts.bought) }}</button></p>
        <p class="second">
          {{ view.counts.bought === 1 ? 'purchase' : 'purchases' }}<template v-if="view.counts.refunded">; of
            <button
              type="button" class="open" @click="only('refunded')">{{ sayNumber(view.counts.refunded) }}</button> refunded</template>
        </p>
      </div>
      <div>
        <p class="big">{{ sayRate(view.rate) }}</p>
        <p class="second">
          {{ view.rate.value === null ? (view.counts.bought ? 'more sales than counted visits' : 'of nothing yet') : `${saySome(view.rate.part, 'buyer', 'buyers')} of ${saySome(view.rate.whole, 'visit', 'visits')}; ${sayInterval(view.rate)}` }}
        </p>
      </div>
      <div>
        <p class="big">{{ view.paid.length ? sums(view.paid) : '0' }}</p>
        <p class="second">paid<template v-if="view.refunded.length">, {{ sums(view.refunded) }} refunded</template></p>
      </div>
    </div>
    <p v-if="view.counts.disputed || view.counts.refused" class="note brick trouble">
      <template v-if="view.counts.disputed">
        <button
          type="button" class="open" @click="only('disputed')">{{ saySome(view.counts.disputed, 'purchase is', 'purchases are') }}</button>
        disputed.
      </template>
      <template v-if="view.counts.refused"><button
        type="button" class="open" @click="only('refused')">{{ saySome(view.counts.refused, 'payment was', 'payments were') }}</button>
        refused.</template>
    </p>

    <div class="parts-of">
      <SalesParts title="By coupon" :parts="view.byCoupon" @open="key => set({ ...all, coupon: key })" />
      <SalesParts title="By source" :parts="view.bySource" @open="sourceOf" />
      <SalesParts title="By email" :parts="view.byEmail" @open="key => set({ ...all, email: key })" />
    </div>

    <section class="panel" aria-labelledby="sales">
      <div class="panel-head">
        <h2 id="sales">Purchases<template v-if="narrowed.length"> ({{ narrowed.join(', ') }}
          <button type="button" class="link-button small" @click="set(all)">show all</button>)</template></h2>
        <Select
          :model-value="values.state as SaleState" :options="states" option-label="name" option-value="value" aria-label="Which ones"
          size="small" @update:model-value="state => set({ state })" />
      </div>
      <PlainTable
        v-if="view.rows.length" :rows="view.rows" :columns="COLUMNS"
        :row-key="row => `${row.purchaseId} ${row.personId} ${row.at}`">
        <template #when="{ row }"><span class="at">{{ sayMoment(row.at, zone) }}</span></template>
        <template #who="{ row }"><NuxtLink :to="`/subscribers/${row.personId}`">{{ row.person }}</NuxtLink></template>
        <template #amount="{ row }">{{ sayMoney(row.amount) }}</template>
        <template #status="{ row }">{{ row.says }}</template>
        <template #coupon="{ row }"><span class="mono">{{ row.couponCode }}</span></template>
        <template #broughtBy="{ row }"><span class="cut brought" :title="brought(row)">{{ brought(row) }}</span></template>
      </PlainTable>
      <p v-else class="panel-body second">None in this period.</p>
      <TablePages v-if="view.rowCount > view.pageSize" :page="Number(values.page)" :page-size="view.pageSize" :total="view.rowCount"
                  :shown="view.rows.length" one="of them" many="of them" @go="page => set({ page: String(page) })" />
    </section>
    <p class="second small foot">The email is the last one a buyer clicked before buying, within
      {{ saySome(view.clickDays, 'day', 'days') }} (24 hours each; see <NuxtLink to="/settings">Settings</NuxtLink>).</p>
  </div>
</template>

<style scoped>
.file { font-weight: 600; align-self: center; }
.figures {
  display: grid; grid-template-columns: repeat(5, minmax(0, auto)); justify-content: space-between; gap: 12px 24px; padding: 2px 0 16px;
}
.big { font: 650 25px/1.2 var(--heading); font-variant-numeric: tabular-nums; }
.open {
  background: none; border: 0; padding: 0; color: var(--p-porch-door); cursor: pointer; font: inherit; text-decoration: underline;
  text-decoration-color: color-mix(in srgb, currentcolor 35%, transparent); text-underline-offset: 2px; min-height: 24px;
}
.note .open { color: inherit; }
.trouble { margin-bottom: 14px; }
.parts-of { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 14px; margin-bottom: 16px; }
.at { font-variant-numeric: tabular-nums; white-space: nowrap; }
.brought { display: block; max-width: 260px; }
.foot { padding-top: 14px; max-width: 92ch; }
@media (max-width: 900px) { .figures, .parts-of { grid-template-columns: minmax(0, 1fr); } }
</style>
