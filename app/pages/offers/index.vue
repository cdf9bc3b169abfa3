<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { sayMoney, sumsOf } from '#core/money/money'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMaking } from '~/composables/useMaking'
import { sayNumber, saySome } from '#core/stats/say'
import NameDialog from '~/components/NameDialog.vue'
import ListPage from '~/components/ListPage.vue'
import WeeksPanel from '~/components/WeeksPanel.vue'
import StateDot from '~/components/StateDot.vue'
import type { OfferLine } from '#core/views/offers'
import type { PlainColumn } from '~/components/PlainTable.vue'
import UnmatchedPayments from '~/components/offer/UnmatchedPayments.vue'

const { data: offers, problem } = useFresh(() => api('GET /offers'))
const { makeOffer } = useMaking()
const making = ref(false)
const from = ref(0)
const beginnings = computed(() =>
  [{ value: 0, name: 'An empty offer' }, ...(offers.value ?? []).map(({ id, name }) => ({ value: id, name: `A copy of ${name}` }))])
const standing = computed(() => {
  if (!offers.value?.length) return 'What you sell, for how much, and until when.'
  const open = offers.value.filter(offer => offer.status === 'published' && offer.standing === 'open').length
  const sums = sumsOf(offers.value.flatMap(({ money }) => money))
  return `${open} can be bought now, ${saySome(offers.value.reduce((sum, { sold }) => sum + sold, 0), 'purchase', 'purchases')} so far${sums.length ? `, ${sums.map(sayMoney).join(' and ')}` : ''}.`
})

const COLUMNS: PlainColumn[] = [
  { key: 'offer', head: 'Offer' }, { key: 'price', head: 'Price' }, { key: 'status', head: 'Status' },
  { key: 'weeks', head: 'Sales a week' },
  { key: 'sold', head: 'Sold', class: 'number' }, { key: 'money', head: 'Revenue after refunds', class: 'number' },
]
const STATES = [
  { name: 'Can be bought now', is: (offer: OfferLine) => offer.status === 'published' && offer.standing === 'open' },
  { name: 'Closed', is: (offer: OfferLine) => offer.status === 'published' && offer.standing !== 'open' },
  { name: 'Drafts', is: (offer: OfferLine) => offer.status === 'draft' },
]
const ORDERS = [
  { name: 'Most sold first', compare: (a: OfferLine, b: OfferLine) => b.sold - a.sold },
  { name: 'By name', compare: (a: OfferLine, b: OfferLine) => a.name.localeCompare(b.name) },
]
</script>

<template>
  <ListPage
    title="Offers" how="offer" :standing="standing" kind="offer" :rows="offers" :problem="problem" :columns="COLUMNS" to="/offers"
    :weekly="{ kind: 'offer', words: 'Sales' }" :states="STATES" :orders="ORDERS" :find="{ by: ({ name }) => [name], words: 'names' }">
    <template #actions>
      <NuxtLink to="/offers/past" class="past">Import past sales</NuxtLink>
      <Button id="new-offer" data-opens label="New offer" @click="making = true" />
    </template>
    <template #before><UnmatchedPayments /></template>
    <template #none>
      <h2>Make the first offer</h2>
      <p class="second">A page that sells, a price and a button. For example: “Long-Stitch Journals, €180 in three payments, twelve
        places, open until Friday at 20:00.” Buyers get the tag <em>journals</em>, join its course, and leave the one that sold it.</p>
    </template>
    <template #offer="{ row }"><NuxtLink :to="`/offers/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink></template>
    <template #price="{ row }">{{ row.price }}</template>
    <template #status="{ row }">
      <StateDot :is="row.status === 'draft' ? 'off' : row.standing === 'open' ? 'on' : 'paused'" :words="row.stands" />
      <span v-if="row.hasChanges" class="second small sub">changes not published</span>
    </template>
    <template #sold="{ row }">
      <NuxtLink v-if="row.sold" :to="{ path: `/offers/${row.id}/sales`, query: { days: 730, state: 'owned' } }" @click.stop>
        {{ sayNumber(row.sold) }}
      </NuxtLink>
      <template v-else>0</template>
    </template>
    <template #money="{ row }">{{ row.money.map(sayMoney).join(' and ') }}</template>
    <template #after><WeeksPanel title="Sales by week" :series="[{ kind: 'offer', name: 'sales' }]" /></template>
    <NameDialog
      v-model:visible="making" title="New offer" label="Name (buyers see it on their receipt)" example="Long-Stitch Journals"
      action="Make the offer" :make="name => makeOffer(name, from || null)">
      <div class="field">
        <label for="from">Start from</label>
        <Select v-model="from" input-id="from" :options="beginnings" option-label="name" option-value="value" />
      </div>
    </NameDialog>
  </ListPage>
</template>

<style scoped>
.past { font-weight: 600; align-self: center; }
.sub { display: block; }
</style>
