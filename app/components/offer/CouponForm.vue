<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import type { Coupon, CouponInput } from '#core/offers/coupon'
import { isRenewed, type Price } from '#core/offers/price'
import { sayPrice, sayPriceWith } from '#core/offers/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import InstantField from '~/components/InstantField.vue'
import MoneyField from '~/components/MoneyField.vue'
import { useUndo } from '~/stores/undo'
import SidePanel from '~/components/SidePanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** One coupon, made or changed. */
const props = defineProps<{ offerId: number, price: Price, coupon: Coupon | null }>()
const emit = defineEmits<{ close: [], saved: [] }>()
const { attempt, busy, problem } = useAttempt()
const undo = useUndo()

const { coupon } = props
const code = ref(coupon?.code ?? '')
const kind = ref<CouponInput['cut']['kind']>(coupon?.cut.kind ?? 'percent')
const percent = ref(coupon?.cut.kind === 'percent' ? coupon.cut.hundredths / 100 : 20)
const amount = ref(coupon?.cut.kind === 'amount' ? coupon.cut.amount : 0)
const amountIsWrong = ref(false)
const fromAt = ref(coupon?.fromAt ?? null)
const untilAt = ref(coupon?.untilAt ?? null)
const uses = ref(coupon?.uses ?? null)
const lasts = ref(coupon?.lasts ?? 'every')
const limited = computed({
  get: () => uses.value !== null,
  set: (on: boolean) => {
    uses.value = on ? 20 : null
  },
})
const input = computed<CouponInput>(() => ({
  code: code.value, cut: kind.value === 'percent'
    ? { kind: 'percent', hundredths: Math.round((percent.value ?? 0) * 100) }
    : { kind: 'amount', amount: amount.value },
  fromAt: fromAt.value, untilAt: untilAt.value, uses: uses.value, lasts: lasts.value,
}))
const wrong = (field: string) => problem.value?.of(field) ?? problem.value?.fields.find(one => one.field.startsWith(`${field}.`))?.problem

async function save() {
  if (amountIsWrong.value && kind.value === 'amount') return
  const [id, body] = [props.offerId, input.value]
  const change = (couponId: number, to: CouponInput) => api('PUT /offers/:id/coupons/:couponId', { at: { id, couponId }, body: to })
  if (!await attempt(() => coupon ? change(coupon.id, body) : api('POST /offers/:id/coupons', { at: { id }, body }))) return
  emit('saved')
  if (!coupon) return
  const { code: before, cut, fromAt: from, untilAt: until, uses: most, lasts: stays } = coupon
  undo.did({
    said: `The coupon ${body.code} is saved.`,
    undo: () => change(coupon.id, { code: before, cut, fromAt: from, untilAt: until, uses: most, lasts: stays }),
  })
}
</script>

<template>
  <SidePanel :label="coupon ? `The coupon ${coupon.code}` : 'A new coupon'" @close="emit('close')">
    <template #head><h2>{{ coupon ? `The coupon ${coupon.code}` : 'A new coupon' }}</h2></template>
    <form class="fields" @submit.prevent="save">
      <div class="field">
        <label for="coupon-code">Code</label>
        <InputText id="coupon-code" v-model="code" class="mono" maxlength="60" autocapitalize="characters" :invalid="!!wrong('code')" />
        <ProblemNote v-if="wrong('code')" :of="wrong('code')" line />
        <p v-else class="hint">Buyers may type it in small letters, too.</p>
      </div>
      <div class="field">
        <span class="label">Discount</span>
        <SelectButton
          v-model="kind" :options="[{ value: 'percent', name: 'Percent' }, { value: 'amount', name: 'An amount' }]" option-label="name"
          option-value="value" :allow-empty="false" size="small" aria-label="Kind of discount" />
      </div>
      <div v-if="kind === 'percent'" class="field">
        <label for="coupon-percent">Percent</label>
        <InputNumber
          v-model="percent" input-id="coupon-percent" :max-fraction-digits="2" suffix=" %" class="narrow" :invalid="!!wrong('cut')" />
        <ProblemNote :of="wrong('cut')" line />
      </div>
      <MoneyField
        v-else v-model="amount" input-id="coupon-amount" label="Amount" :currency="price.currency" :problem="wrong('cut')"
        @wrong="is => amountIsWrong = is" />
      <p v-if="price.amount > 0 && percent <= 100" class="second">{{ sayPrice(price) }} becomes
        <strong>{{ sayPriceWith(price, input) }}</strong>.</p>
      <div v-if="isRenewed(price)" class="field">
        <span class="label">Payments it applies to</span>
        <SelectButton
          v-model="lasts" :options="[{ value: 'every', name: 'Every one' }, { value: 'first', name: 'The first alone' }]"
          option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Payments it applies to" />
      </div>
      <InstantField v-model="fromAt" input-id="coupon-from" label="Counts from" :ahead="1" none="It is valid at once." />
      <InstantField
        v-model="untilAt" input-id="coupon-until" label="Until" :ahead="7" none="It has no end date." :problem="wrong('untilAt')" />
      <div class="uses">
        <span class="tick"><Checkbox v-model="limited" input-id="limited-uses" binary /><label for="limited-uses">At most</label></span>
        <template v-if="uses !== null"><InputNumber
          v-model="uses" :min="1" :max="1000000" :allow-empty="false" aria-label="How often" size="small" class="narrow" /> <span
          class="second small">purchases</span></template>
        <span v-else class="second small">Unlimited purchases.</span>
      </div>
      <ProblemNote :of="problem" general />
      <div class="end">
        <Button label="Cancel" severity="secondary" @click="emit('close')" />
        <Button type="submit" :label="coupon ? 'Change the coupon' : 'Make the coupon'" :loading="busy" />
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.uses { display: flex; align-items: center; gap: 10px; min-height: 36px; }
.tick { display: flex; align-items: center; gap: 8px; min-width: 128px; }
.narrow :deep(input), .narrow { width: 120px; }
.end { display: flex; gap: 8px; justify-content: flex-end; padding-top: 8px; }
</style>
