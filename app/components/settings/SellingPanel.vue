<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import type { Selling } from '#core/views/offers'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { putBack, useUndo } from '~/stores/undo'
import InsideQuestion from './InsideQuestion.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What receipts say, which click led to a purchase, and who takes the money. */
const props = defineProps<{ live: boolean, senderHint: string }>()
const undo = useUndo()
const typed = ref<Selling | null>(null)
const { data: view, problem: loading } = useFresh(async () => {
  const selling = await api('GET /selling')
  typed.value ??= pick(selling)
  return selling
})
const pick = ({ seller, taxLine, clickDays, paymentsUrl, paymentsSecret }: Selling): Selling =>
  ({ seller, taxLine, clickDays, paymentsUrl, paymentsSecret })
const { attempt, busy, problem } = useAttempt()
const paymentsUrl = computed({
  get: () => typed.value?.paymentsUrl ?? '',
  set: (url: string) => {
    typed.value!.paymentsUrl = url || null
  },
})
const shown = ref(false)
async function save(insideMeant = false) {
  const before = pick(view.value!)
  const keep = async (selling: Selling, meant: boolean) => {
    view.value = await api('PUT /selling', { body: { ...selling, insideMeant: meant } })
    typed.value = pick(view.value)
  }
  if (!await attempt(() => keep(typed.value!, insideMeant))) return
  const kept = pick(view.value!)
  undo.did({ said: 'The settings are saved.', undo: () => putBack(
    async () => pick(await api('GET /selling')), kept, () => keep(before, true),
  ) })
}
</script>

<template>
  <section class="panel" aria-labelledby="selling">
    <h2 id="selling">Selling</h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <form v-else-if="typed && view" class="panel-body fields" @submit.prevent="save()">
      <div class="field">
        <label for="seller">Seller, as on receipts</label>
        <Textarea id="seller" v-model="typed.seller" rows="2" auto-resize maxlength="400" :placeholder="props.senderHint" />
      </div>
      <div class="field">
        <label for="tax-line">Tax line on receipts</label>
        <InputText id="tax-line" v-model="typed.taxLine" maxlength="300" placeholder="Including 23 % VAT" />
      </div>
      <div class="field">
        <label for="click-days">Days a click counts as the reason for a purchase</label>
        <InputNumber v-model="typed.clickDays" input-id="click-days" :min="1" :max="90" :allow-empty="false" class="narrow" />
      </div>
      <div v-if="live" class="field">
        <label for="payments-url">Address of the payment service</label>
        <InputText id="payments-url" v-model="paymentsUrl" maxlength="500" placeholder="https://" :invalid="!!problem?.of('paymentsUrl')" />
        <ProblemNote :of="problem" at="paymentsUrl" />
        <InsideQuestion :problem="problem" field="paymentsUrl" @meant="save(true)" />
        <p v-if="!problem?.of('paymentsUrl')" class="hint">
          Called for each order; docs/payments.md says how. Without it nothing can be bought.
        </p>
      </div>
      <p v-else class="second small">In practice payments are simulated, and no money moves.</p>
      <div class="field">
        <label for="payments-secret">Secret of its webhooks</label>
        <InputText
          id="payments-secret" v-model="typed!.paymentsSecret" class="mono" maxlength="200" placeholder="the one below"
          :invalid="!!problem?.of('paymentsSecret')" autocomplete="off" />
        <ProblemNote :of="problem" at="paymentsSecret" />
      </div>
      <div class="told small second">
        <p>Payments are reported to <span class="mono">{{ view!.endpoint }}</span>, signed by the Standard Webhooks specification.
          <button type="button" class="link-button small" :aria-expanded="shown" @click="shown = !shown">{{ shown
            ? 'Hide the secret' : 'Show the secret' }}</button></p>
        <p v-if="shown" class="mono secret">{{ view!.paymentsSecret || view!.ownSecret }}</p>
      </div>
      <ProblemNote :of="problem" general />
      <p class="end"><Button type="submit" label="Save" severity="secondary" :loading="busy" /></p>
    </form>
  </section>
</template>

<style scoped>
.narrow :deep(input) { width: 90px; }
.secret { overflow-wrap: anywhere; user-select: all; }
.end { text-align: right; }
</style>
