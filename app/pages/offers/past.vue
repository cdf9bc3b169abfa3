<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import type { SalesSpec, SaleTarget } from '#core/exchange/sales'
import { CURRENCIES, sayMoney } from '#core/money/money'
import type { DateOrder } from '#core/people/field'
import { sayZone } from '#core/time/say'
import type { PastSalesView } from '#core/views/offers'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import ImportDrop from '~/components/subscribers/ImportDrop.vue'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { data: offers } = useFresh(() => api('GET /offers'))
const { attempt, busy, problem } = useAttempt()
const file = ref<File | null>(null)
const view = ref<PastSalesView | null>(null)
const spec = ref<SalesSpec | null>(null)
const unknown = ref<'leave' | 'bring'>('leave')
const starts = ref(false)
const done = ref<PastSalesView | null>(null)

const TARGETS: { value: SaleTarget, name: string }[] = [
  { value: 'order', name: 'Order number' }, { value: 'email', name: 'Buyer’s address' }, { value: 'first-name', name: 'First name' },
  { value: 'offer', name: 'Which offer' }, { value: 'amount', name: 'Amount paid' },
  { value: 'currency', name: 'Currency' }, { value: 'date', name: 'Date' }, { value: 'coupon', name: 'Coupon' },
  { value: 'nothing', name: 'not imported' },
]
const ORDERS: { value: DateOrder, name: string }[] = [
  { value: 'day-month-year', name: 'Day, month, year' }, { value: 'month-day-year', name: 'Month, day, year' },
  { value: 'year-month-day', name: 'Year, month, day' },
]
const nameOf = (target: SaleTarget) => TARGETS.find(({ value }) => value === target)!.name.toLowerCase()
const choices = computed(() => [{ id: 0, name: 'none' }, ...(offers.value ?? []).map(({ id, name }) => ({ id, name }))])

function ask(bring: boolean): Promise<PastSalesView> {
  const query = { bring, unknown: unknown.value, starts: starts.value, spec: spec.value && JSON.stringify(spec.value) }
  return api('POST /past-sales', { query, file: file.value! })
}
async function bring(dropped: File) {
  file.value = dropped
  spec.value = null
  view.value = null
  done.value = null
  await look()
}
const look = () => attempt(async () => {
  view.value = await ask(false)
  spec.value ??= JSON.parse(JSON.stringify(view.value.spec)) as SalesSpec
})
watch([spec, unknown], (_, [before]) => {
  if (before !== null && file.value) void look()
}, { deep: true })
const comeIn = () => attempt(async () => {
  done.value = await ask(true)
  view.value = null
  await frame.changed()
})
</script>

<template>
  <div>
    <PageHead
      title="Import past sales" :back="{ to: '/offers', name: 'Offers' }">A CSV file with one payment per row: order number, address,
      amount and date at least. No emails or receipts are sent.</PageHead>
    <div class="stack">
      <p v-if="done" class="note" role="status">{{ saySome(done.ready, 'sale came', 'sales came') }}
        in{{ done.newcomers ? `, and ${saySome(done.newcomers, 'new subscriber', 'new subscribers')} with them` : '' }}.
        <NuxtLink to="/offers">See the offers</NuxtLink>.</p>
      <ImportDrop most="20 MB" :busy="busy && !view" @file="bring" />
      <ProblemNote :of="problem" />
      <template v-if="view && spec">
        <section class="panel" aria-labelledby="columns">
          <h2 id="columns">Columns</h2>
          <div v-for="(column, n) in view.columns" :key="n" class="row column">
            <span class="cut"><strong>{{ column.name }}</strong> <span class="second small">{{ column.sample.join(', ') }}</span></span>
            <Select
              v-model="spec.columns[n]" :options="TARGETS" option-label="name" option-value="value" size="small"
              :aria-label="`The column ${column.name}`" />
          </div>
        </section>
        <section class="panel panel-body fields" aria-labelledby="terms">
          <h2 id="terms">How to import them</h2>
          <div class="fields two">
            <div class="field">
              <label for="which">Offer, if no column says it</label>
              <Select
                :model-value="spec.offerId ?? 0" input-id="which" :options="choices" option-label="name" option-value="id"
                @update:model-value="id => spec!.offerId = id || null" />
            </div>
            <div class="field">
              <label for="in">Currency, if no column says it</label>
              <Select v-model="spec.currency" input-id="in" :options="[...CURRENCIES]" filter />
            </div>
          </div>
          <div class="field">
            <span class="label">A date like 03/04/2026 is</span>
            <SelectButton
              v-model="spec.dateOrder" :options="ORDERS" option-label="name" option-value="value" :allow-empty="false" size="small"
              aria-label="Order of dates" />
            <p class="hint">A date without a time means noon, {{ sayZone(frame.zone) }}.</p>
          </div>
          <div class="field">
            <span class="label">Buyers who are not subscribers yet</span>
            <SelectButton
              v-model="unknown"
              :options="[{ value: 'leave', name: 'Skip their sales' }, { value: 'bring', name: 'Add them as subscribers' }]"
              option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Unknown buyers" />
            <p class="hint">{{ unknown === 'bring' ? 'They are added as active, without consent on record. If their country needs it, they get no emails.' : 'You can import them first, with their consent.' }} People who unsubscribed stay unsubscribed.</p>
          </div>
          <span class="tick">
            <Checkbox v-model="starts" input-id="starts" binary />
            <label for="starts">Start and end courses and house rules as if it was sold today; otherwise only lists, tags and fields are
              set</label>
          </span>
        </section>
        <section class="panel panel-body" aria-labelledby="plan" aria-live="polite">
          <h2 id="plan">Preview</h2>
          <p v-if="view.lacks.length">No column yet for: {{ view.lacks.map(nameOf).join(', ') }}.</p>
          <template v-else>
            <p>{{ saySome(view.ready, 'sale', 'sales') }} of {{ saySome(view.rows, 'row', 'rows') }}<template v-if="view.money.length">,
              {{ view.money.map(sayMoney).join(' and ') }}</template>{{ view.newcomers
              ? `, by which ${saySome(view.newcomers, 'person comes', 'people come')} in` : '' }}.</p>
            <p v-if="view.known" class="second">{{ saySome(view.known, 'order is', 'orders are') }} already here and skipped.</p>
            <p v-if="view.unknown" class="second">{{ saySome(view.unknown, 'row is', 'rows are') }} left out: no subscriber has the
              address.</p>
            <p v-if="view.wrong" class="wrong">{{ saySome(view.wrong, 'row cannot', 'rows cannot') }} come in:</p>
            <ul v-if="view.problems.length" class="problems">
              <li
                v-for="one in view.problems" :key="one.row"><span class="second">row {{ sayNumber(one.row) }}</span> {{ one.problem }}</li>
            </ul>
          </template>
          <p class="end">
            <Button :label="`Import ${saySome(view.ready, 'sale', 'sales')}`" :disabled="view.ready === 0 || view.lacks.length > 0"
                    :loading="busy" @click="comeIn" />
          </p>
        </section>
      </template>
    </div>
  </div>
</template>

<style scoped>
.column { display: grid; grid-template-columns: minmax(0, 1fr) 200px; gap: 14px; align-items: center; }
.tick { display: flex; align-items: baseline; gap: 8px; }
.wrong { color: var(--p-porch-brick); padding-top: 8px; }
.problems { list-style: none; margin: 4px 0 0; padding: 0; max-height: 220px; overflow: auto; }
.problems .second { display: inline-block; min-width: 74px; font-variant-numeric: tabular-nums; }
.end { padding-top: 12px; }
</style>
