<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import type { Leaf, PurchaseFate } from '#core/audience/condition'
import { useParts } from '~/composables/useParts'
import MoneyField from '~/components/MoneyField.vue'
import StretchField from './StretchField.vue'

/** What they bought, how much they paid in all, what they want to hear no more of, and what they wait for. */
const leaf = defineModel<Extract<Leaf, { kind: 'purchase' | 'spent' | 'no-more' | 'waits' }>>({ required: true })
defineProps<{ label: string }>()
const parts = useParts()
const FATES: { value: PurchaseFate, name: string }[] = [
  { value: 'bought', name: 'bought' }, { value: 'owned', name: 'have now' }, { value: 'over', name: 'no longer have' },
  { value: 'refunded', name: 'got a refund for' }, { value: 'disputed', name: 'disputed the payment for' },
  { value: 'refused', name: 'had a payment refused for' }, { value: 'began', name: 'went to checkout for' },
  { value: 'abandoned', name: 'did not pay in time for' },
]
const offers = computed(() => [{ id: 0, name: 'anything' }, ...parts.value.offers])
const currencies = computed(() => [...new Set([...parts.value.currencies, ...leaf.value.kind === 'spent' ? [leaf.value.currency] : []])])
const set = (change: Record<string, unknown>) => leaf.value = { ...leaf.value, ...change } as typeof leaf.value
</script>

<template>
  <template v-if="leaf.kind === 'purchase'">
    <Select
      :model-value="leaf.fate" :options="FATES" option-label="name" option-value="value" size="small"
      :aria-label="`${label}: what became of it`" @update:model-value="fate => set({ fate })" />
    <Select
      :model-value="leaf.offerId ?? 0" :options="offers" option-label="name" option-value="id" size="small" filter
      :aria-label="`${label}: which offer`" @update:model-value="offerId => set({ offerId: offerId || null })" />
    <span class="second small">at least</span>
    <InputNumber
      :model-value="leaf.times" :min="1" :max="1000" :allow-empty="false" :suffix="leaf.times === 1 ? ' time' : ' times'" size="small"
      class="few" :aria-label="`${label}: how many times`" @update:model-value="times => set({ times: times ?? 1 })" />
    <StretchField :model-value="leaf.within" :label="label" any-time @update:model-value="within => set({ within })" />
  </template>
  <template v-else-if="leaf.kind === 'spent'">
    <MoneyField
      :model-value="leaf.atLeast" :input-id="`spent-${label.replace(/\W+/g, '-')}`" label="at least" :currency="leaf.currency" size="small"
      @update:model-value="atLeast => set({ atLeast })" />
    <Select v-if="currencies.length > 1" :model-value="leaf.currency" :options="currencies" size="small"
            :aria-label="`${label}: in which currency`" @update:model-value="currency => set({ currency })" />
    <Select
      :model-value="leaf.offerId ?? 0"
      :options="[{ id: 0, name: 'for all together' }, ...parts.offers.map(({ id, name }) => ({ id, name: `for ${name}` }))]"
      option-label="name" option-value="id" size="small" :aria-label="`${label}: for what`"
      @update:model-value="offerId => set({ offerId: offerId || null })" />
  </template>
  <Select
    v-else :model-value="leaf.offerId" :options="parts.offers" option-label="name" option-value="id" size="small"
    :aria-label="`${label}: of which offer`" @update:model-value="offerId => set({ offerId })" />
</template>

<style scoped>
.few :deep(input) { width: 92px; }
</style>
