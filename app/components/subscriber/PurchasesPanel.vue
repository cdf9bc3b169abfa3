<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { sayMoney } from '#core/money/money'
import { sayDay } from '#core/time/say'
import type { PaymentOfPurchase, PurchaseOfPerson } from '#core/views/offers'
import type { SubscriberView } from '#core/views/people'
import { api, ApiProblem } from '~/composables/useApi'
import { sayNumber } from '#core/stats/say'
import { useAttempt } from '~/composables/useAttempt'
import MoneyField from '~/components/MoneyField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What they bought: each payment with its receipt, giving money back, and ending what is renewed. */
defineProps<{ purchases: PurchaseOfPerson[], noMore: SubscriberView['noMore'], waits: SubscriberView['waits'], zone: string }>()
const emit = defineEmits<{ changed: [] }>()
const confirm = useConfirm()
const toast = useToast()
const { attempt, busy, problem } = useAttempt()
const giving = ref<{ purchase: PurchaseOfPerson, payment: PaymentOfPurchase } | null>(null)
const amount = ref(0)
const amountIsWrong = ref(false)
const left = computed(() => giving.value ? giving.value.payment.amount - giving.value.payment.refunded : 0)

function begin(purchase: PurchaseOfPerson, payment: PaymentOfPurchase) {
  problem.value = null
  giving.value = { purchase, payment }
  amount.value = payment.amount - payment.refunded
}
async function give() {
  if (amountIsWrong.value) return
  const { purchase, payment } = giving.value!
  let counted = false
  if (!await attempt(async () => ({ counted } = await api('POST /purchases/:id/refund', {
    at: { id: purchase.id }, body: { paymentId: payment.id, amount: amount.value } })))) return
  const much = `${sayMoney({ amount: amount.value, currency: purchase.currency })} of ${purchase.offerName}`
  toast.add({
    severity: 'success', summary: counted ? 'Given back' : 'Asked for',
    detail: counted ? much : `${much}. It counts once the payment service confirms it.`, life: 6000,
  })
  giving.value = null
  emit('changed')
}
function end(purchase: PurchaseOfPerson) {
  confirm.require({
    header: `End ${purchase.offerName}`, message: 'No further payments are taken. They keep what they paid for until it ends.',
    acceptProps: { label: 'End it', severity: 'danger' }, rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: async () => {
      try {
        const { counted } = await api('POST /purchases/:id/end', { at: { id: purchase.id } })
        if (!counted) toast.add({
          severity: 'success', summary: 'Asked for', detail: 'It counts once the payment service confirms it.', life: 6000,
        })
        emit('changed')
      }
      catch (error) {
        toast.add({
          severity: 'error', summary: 'Not ended', detail: error instanceof ApiProblem ? error.message : String(error), life: 8000,
        })
      }
    },
  })
}
const CAME_BY = { checkout: '', http: 'Reported from outside.', csv: 'From a file of past sales.' }
</script>

<template>
  <section class="panel" aria-labelledby="purchases">
    <h2 id="purchases">Purchases</h2>
    <div v-for="purchase in purchases" :key="purchase.id" class="row" :class="{ over: purchase.isOver }">
      <p>
        <NuxtLink :to="`/offers/${purchase.offerId}/sales?days=730`"><strong>{{ purchase.offerName }}</strong></NuxtLink>
        <span v-if="purchase.couponCode" class="chip mono coupon">{{ purchase.couponCode }}</span>
      </p>
      <p class="small second">{{ [...purchase.says, CAME_BY[purchase.cameBy]].filter(Boolean).join(' ') }}</p>
      <ul>
        <li v-for="payment in purchase.payments" :key="payment.id" class="small">
          <span>{{ sayDay(payment.at, zone, true) }}</span>
          <span>{{ payment.receipt ? `receipt ${payment.receipt}` : '' }}{{ payment.disputed ? ' disputed' : '' }}</span>
          <span class="number">
            {{ sayMoney({ amount: payment.amount, currency: purchase.currency }) }}<span v-if="payment.refunded" class="second">,
              {{ sayMoney({ amount: payment.refunded, currency: purchase.currency }) }} back</span>
          </span>
          <Button
            v-if="payment.refunded < payment.amount" size="small" text severity="secondary" label="Give back"
            :aria-label="`Give back of ${sayMoney({ amount: payment.amount, currency: purchase.currency })} paid ${sayDay(payment.at, zone, true)}`"
            @click="begin(purchase, payment)" />
        </li>
      </ul>
      <form v-if="giving?.purchase.id === purchase.id" class="give" @submit.prevent="give">
        <MoneyField
          v-model="amount" :input-id="`back-${purchase.id}`" label="Amount to refund" :currency="purchase.currency" size="small"
          :problem="problem?.of('amount')" @wrong="is => amountIsWrong = is"><p class="hint">Of
            {{ sayMoney({ amount: left, currency: purchase.currency }) }} that is left of this
            payment.<template v-if="purchase.unused !== null && giving.payment.id === purchase.payments.at(-1)!.id"> For the time left:
              <button type="button" class="link-button small" @click="amount = purchase.unused!">
                {{ sayMoney({ amount: purchase.unused, currency: purchase.currency }) }}
              </button>
            </template></p></MoneyField>
        <ProblemNote v-if="!problem?.of('amount')" :of="problem" line class="small" />
        <p class="acts">
          <Button size="small" label="Cancel" severity="secondary" @click="giving = null" />
          <Button
            size="small" type="submit" severity="danger" :label="`Give back ${sayMoney({ amount, currency: purchase.currency })}`"
            :loading="busy" />
        </p>
      </form>
      <p class="acts">
        <a :href="purchase.buyerUrl" target="_blank" rel="noopener" class="small">Their own page</a>
        <Button
          v-if="purchase.canEnd" size="small" text severity="secondary" label="End it" :aria-label="`End ${purchase.offerName}`"
          @click="end(purchase)" />
      </p>
    </div>
    <p v-for="one in waits" :key="`waits ${one.offerId}`" class="row small">
      Waits until <NuxtLink :to="`/offers/${one.offerId}?part=waiting`">{{ one.name }}</NuxtLink> can be bought, since
      {{ sayDay(one.since, zone, true) }}: number {{ sayNumber(one.place) }} in line.
    </p>
    <p v-for="one in noMore" :key="one.offerId" class="row small">Wants no more about
      <NuxtLink :to="`/offers/${one.offerId}`">{{ one.name }}</NuxtLink>, since {{ sayDay(one.at, zone, true) }}. Only they can undo
      that.</p>
    <p v-if="purchases.length === 0" class="panel-body second">No purchases.</p>
  </section>
</template>

<style scoped>
.over strong { color: var(--p-porch-ink-second); }
.coupon { margin-left: 8px; }
ul { list-style: none; margin: 4px 0 0; padding: 0; }
li { display: grid; grid-template-columns: 104px minmax(0, 1fr) auto auto; gap: 10px; align-items: center; min-height: 28px; }
.give { display: grid; gap: 8px; background: var(--p-porch-rail); border-radius: 6px; padding: 10px 12px; margin: 6px 0; }
.acts { display: flex; gap: 10px; align-items: center; }
</style>
