<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { sayMoney, sumsOf } from '#core/money/money'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMaking } from '~/composables/useMaking'
import { sayNumber, saySome } from '~/words/say'
import NameDialog from '~/components/NameDialog.vue'
import ListPage from '~/components/ListPage.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'
import UnmatchedPayments from '~/components/offer/UnmatchedPayments.vue'

const { data: offers, problem } = useFresh(() => api('GET /offers'))
const { makeOffer } = useMaking()
const making = ref(false)
const from = ref(0)
const beginnings = computed(() =>
  [{ value: 0, name: 'An empty offer' }, ...(offers.value ?? []).map(({ id, name }) => ({ value: id, name: `A copy of ${name}` }))])
const standing = computed(() => {
  if (!offers.value?.length) return 'What is sold, for how much, and until when.'
  const open = offers.value.filter(offer => offer.status === 'published' && offer.standing === 'open').length
  const sums = sumsOf(offers.value.flatMap(({ money }) => money))
  return `${open} can be bought now, ${saySome(offers.value.reduce((sum, { sold }) => sum + sold, 0), 'purchase', 'purchases')} so far${sums.length ? `, ${sums.map(sayMoney).join(' and ')}` : ''}.`
})

const COLUMNS: PlainColumn[] = [
  { key: 'offer', head: 'Offer' }, { key: 'price', head: 'Price' }, { key: 'status', head: 'Status' },
  { key: 'sold', head: 'Sold', class: 'number' }, { key: 'money', head: 'Revenue after refunds', class: 'number' },
]
</script>

<template>
  <ListPage
    title="Offers" :standing="standing" kind="offer" :rows="offers" :problem="problem" :columns="COLUMNS" to="/offers"
    :find="{ by: ({ name }) => [name], words: 'a name' }">
    <template #actions>
      <NuxtLink to="/offers/past" class="past">Import past sales</NuxtLink>
      <Button id="new-offer" data-opens label="New offer" @click="making = true" />
    </template>
    <template #before><UnmatchedPayments /></template>
    <template #none>
      <h2>Make the first offer</h2>
      <p class="second">A page that sells, a price and a button. For example: “Long-Stitch Journals, €180 in three parts, twelve places, open until Friday at 20:00.” Buyers get the tag <em>journals</em>, join its course, and leave the one that sold it.</p>
    </template>
    <template #offer="{ row }"><NuxtLink :to="`/offers/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink></template>
    <template #price="{ row }">{{ row.price }}</template>
    <template #status="{ row }">
      <span class="stands" :class="row.status === 'draft' ? 'draft' : row.standing">{{ row.stands }}</span>
      <span v-if="row.hasChanges" class="second small"> changes not published</span>
    </template>
    <template #sold="{ row }">
      <NuxtLink v-if="row.sold" :to="{ path: `/offers/${row.id}/sales`, query: { days: 730, state: 'owned' } }" @click.stop>
        {{ sayNumber(row.sold) }}
      </NuxtLink>
      <template v-else>0</template>
    </template>
    <template #money="{ row }">{{ row.money.map(sayMoney).join(' and ') }}</template>
    <NameDialog
      v-model:visible="making" title="New offer" label="What it is called: buyers see it on their receipt" example="Long-Stitch Journals"
      action="Make the offer" :make="name => makeOffer(name, from || null)">
      <div class="field">
        <label for="from">It begins as</label>
        <Select v-model="from" input-id="from" :options="beginnings" option-label="name" option-value="value" />
      </div>
    </NameDialog>
  </ListPage>
</template>

<style scoped>
.past { font-weight: 600; align-self: center; }
.stands.open { color: var(--p-porch-spruce); }
.stands.draft, .stands.closed { color: var(--p-porch-ink-second); }
</style>
