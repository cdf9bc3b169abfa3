<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import { CURRENCIES, sayCurrency, sayMoney } from '#core/money/money'
import { MOST_ABANDONED_HOURS, MOST_PLACES, type OfferContent } from '#core/offers/offer'
import { dueAt, isRenewed, MOST_PARTS, paymentsOf, type Paying } from '#core/offers/price'
import { sayDay, sayZone } from '#core/time/say'
import type { OfferView } from '#core/views/offers'
import { sayNumber, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import InstantField from '~/components/InstantField.vue'
import MoneyField from '~/components/MoneyField.vue'

/** Price and how it is paid, when it can be bought and by how many. */
const draft = defineModel<OfferContent>({ required: true })
defineProps<{ view: OfferView, wrong: (field: string) => string | undefined }>()
const frame = useFrame()
const zone = computed(() => frame.zone)
const now = computed(() => frame.now)

const PAYING: { value: Paying, name: string }[] = [
  { value: 'once', name: 'Once' }, { value: 'parts', name: 'In instalments' }, { value: 'monthly', name: 'Every month' },
  { value: 'yearly', name: 'Every year' },
]
const paying = computed({
  get: () => draft.value.price.paying,
  set: (value: Paying) => {
    draft.value.price.paying = value
    draft.value.price.parts = value === 'parts' ? Math.max(3, draft.value.price.parts) : 1
    if (!isRenewed({ paying: value })) draft.value.gives.renewalFieldId = null
  },
})
const currencies = CURRENCIES.map(code => ({ value: code, name: `${code}, ${sayCurrency(code)}` }))
/** What somebody pays who buys at this moment, with the dates. */
const dates = computed(() => {
  const { price } = draft.value
  if (price.amount === 0) return []
  const say = (amount: number) => sayMoney({ amount, currency: price.currency })
  if (price.paying === 'once') return [`${say(price.amount)} at once`]
  const { paying } = price
  const amounts = isRenewed(price) ? [price.amount, price.amount, price.amount] : paymentsOf(price)
  const shown = amounts.map((amount, n) =>
    `${say(amount)} ${n === 0 ? 'at once' : sayDay(dueAt(now.value, n, paying, zone.value), zone.value, true)}`)
  return isRenewed(price) ? [...shown, 'and so on, until it is cancelled'] : shown
})
const limited = computed({
  get: () => draft.value.places !== null,
  set: (on: boolean) => {
    draft.value.places = on ? 12 : null
  },
})
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-labelledby="price">
      <h2 id="price">Price</h2>
      <div class="field">
        <span class="label">Payment</span>
        <SelectButton
          v-model="paying" :options="PAYING" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="How it is paid" />
      </div>
      <div class="price">
        <MoneyField
          v-model="draft.price.amount" input-id="amount"
          :label="paying === 'parts' ? 'Total of all payments' : paying === 'once' ? 'Price' : 'Price per payment'"
          :currency="draft.price.currency" :problem="wrong('price.amount')" />
        <div class="field">
          <label for="currency">Currency</label>
          <Select
            v-model="draft.price.currency" input-id="currency" :options="currencies" option-label="name" option-value="value" filter
            size="small" />
        </div>
        <div v-if="paying === 'parts'" class="field">
          <label for="parts">Number of monthly payments</label>
          <InputNumber
            v-model="draft.price.parts" input-id="parts" :min="2" :max="MOST_PARTS" :allow-empty="false" show-buttons size="small" />
          <p v-if="wrong('price.parts')" class="problem">{{ wrong('price.parts') }}</p>
        </div>
      </div>
      <div v-if="dates.length" class="sample">
        <span class="small">If someone buys now</span>
        <ol><li v-for="line in dates" :key="line">{{ line }}</li></ol>
      </div>
    </section>
    <section class="panel panel-body fields" aria-labelledby="when">
      <h2 id="when">Dates and places</h2>
      <InstantField
        v-model="draft.opensAt" input-id="opens" label="It opens" :ahead="7" none="It opens as soon as it is published." />
      <InstantField
        v-model="draft.closesAt" input-id="closes" label="It closes" :ahead="11" none="It stays open until you take it down."
        :problem="wrong('closesAt')" />
      <InstantField
        v-if="draft.closesAt !== null" v-model="draft.opensAgainAt" input-id="again" label="It opens again" :ahead="60"
        none="Once closed, it stays closed." :problem="wrong('opensAgainAt')" />
      <div class="places">
        <span class="tick"><Checkbox v-model="limited" input-id="limited" binary /><label for="limited">Places</label></span>
        <template v-if="draft.places !== null">
          <InputNumber v-model="draft.places" :min="1" :max="MOST_PLACES" :allow-empty="false" aria-label="Number of places" size="small" />
          <span class="second small">
            {{ saySome(view.taken.sold, 'place', 'places') }} sold, {{ sayNumber(view.taken.held) }} being paid for.
            A place is held for 10 minutes while someone pays.
          </span>
        </template>
        <span v-else class="second small">No limit on places.</span>
      </div>
      <p class="line">Someone who went to pay and has not after
        <InputNumber
          v-model="draft.abandonedAfterHours" :min="1" :max="MOST_ABANDONED_HOURS" :allow-empty="false" suffix=" hours"
          aria-label="Hours until a checkout counts as abandoned" size="small" /> has abandoned it.</p>
      <p class="second small">What counts is the moment the button is clicked, in {{ sayZone(zone) }}.</p>
    </section>
  </div>
</template>

<style scoped>
.price { display: grid; grid-template-columns: 200px minmax(0, 260px) 190px; gap: 14px; }
.sample {
  background: var(--p-porch-lamp-ground); color: var(--p-porch-lamp-text); border-radius: 6px; padding: 8px 12px; display: grid; gap: 2px;
}
.sample ol { margin: 0; padding: 0; list-style: none; display: flex; flex-wrap: wrap; gap: 2px 18px; font-variant-numeric: tabular-nums; }
.places, .line { display: flex; align-items: center; gap: 10px; flex-wrap: wrap; min-height: 36px; }
.tick { display: flex; align-items: center; gap: 8px; }
.places .tick { min-width: 128px; }
.line :deep(input), .places :deep(input) { width: 100px; }
@media (max-width: 760px) { .price { grid-template-columns: minmax(0, 1fr); } }
</style>
