<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Select from 'primevue/select'
import { sayMoney, sumsOf } from '#core/money/money'
import type { OfferLine } from '#core/views/offers'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { useMaking } from '~/composables/useMaking'
import { sayNumber, saySome } from '~/words/say'
import NameDialog from '~/components/NameDialog.vue'
import PageHead from '~/components/PageHead.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import UnmatchedPayments from '~/components/offer/UnmatchedPayments.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const { data: offers, problem } = useFresh(() => api('GET /offers'))
const { shown, away, showsAway } = useShelf('offer', () => offers.value)
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
</script>

<template>
  <div>
    <PageHead title="Offers">
      {{ standing }}
      <template #actions>
        <NuxtLink to="/offers/past" class="past">Bring in past sales</NuxtLink>
        <Button label="New offer" @click="making = true" />
      </template>
    </PageHead>
    <ProblemNote :of="problem" />
    <div v-if="offers" class="stack">
      <UnmatchedPayments />
      <section v-if="offers.length" class="panel">
        <DataTable :value="shown" data-key="id" @row-click="({ data }) => navigateTo(`/offers/${data.id}`)">
          <Column header="Offer">
            <template #body="{ data }: { data: OfferLine }">
              <NuxtLink :to="`/offers/${data.id}`"><strong>{{ data.name }}</strong></NuxtLink>
            </template>
          </Column>
          <Column header="Price"><template #body="{ data }: { data: OfferLine }">{{ data.price }}</template></Column>
          <Column header="Status">
            <template #body="{ data }: { data: OfferLine }">
              <span class="stands" :class="data.status === 'draft' ? 'draft' : data.standing">{{ data.stands }}</span>
              <span v-if="data.hasChanges" class="second small"> changes not published</span>
            </template>
          </Column>
          <Column header="Sold" header-class="number" body-class="number">
            <template #body="{ data }: { data: OfferLine }">
              <NuxtLink v-if="data.sold" :to="{ path: `/offers/${data.id}/sales`, query: { days: 730, state: 'owned' } }" @click.stop>
                {{ sayNumber(data.sold) }}
              </NuxtLink>
              <template v-else>0</template>
            </template>
          </Column>
          <Column header="Paid, less what went back" header-class="number" body-class="number">
            <template #body="{ data }: { data: OfferLine }">{{ data.money.map(sayMoney).join(' and ') }}</template>
          </Column>
        </DataTable>
        <ShelfSwitch v-model="showsAway" :away="away.length" />
      </section>
      <section v-else class="panel panel-body">
        <h2>Make the first offer</h2>
        <p class="second">A page that sells, a price and a button. For example: “Long-Stitch Journals, €180 in three parts, twelve places, open until Friday at 20:00.” Buyers get the tag <em>journals</em>, join its course, and leave the one that sold it.</p>
      </section>
    </div>
    <NameDialog
      v-model:visible="making" title="New offer" label="What it is called: buyers see it on their receipt" example="Long-Stitch Journals"
      action="Make the offer" :make="name => makeOffer(name, from || null)">
      <div class="field">
        <label for="from">It begins as</label>
        <Select v-model="from" input-id="from" :options="beginnings" option-label="name" option-value="value" />
      </div>
    </NameDialog>
  </div>
</template>

<style scoped>
.past { font-weight: 600; align-self: center; }
.stands.open { color: var(--p-porch-spruce); }
.stands.draft, .stands.closed { color: var(--p-porch-ink-second); }
</style>
