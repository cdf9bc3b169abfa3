<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import InputText from 'primevue/inputtext'
import type { Coupon } from '#core/offers/coupon'
import type { OfferNode } from '#core/message/content'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import SelectField from '~/components/SelectField.vue'

/** Which offer is shown, with which coupon, and what its button says. */
const props = defineProps<{ attrs: OfferNode['attrs'], offers: readonly { id: number, name: string }[] }>()
const emit = defineEmits<{ change: [attrs: Partial<OfferNode['attrs']>] }>()
const coupons = ref<Coupon[]>([])
const asked = useNewest()
watch(() => props.attrs.offerId, async (id) => {
  const isNewest = asked()
  const offer = id === null ? null : await api('GET /offers/:id', { at: { id } }).catch(() => null)
  if (isNewest()) coupons.value = offer?.coupons ?? []
}, { immediate: true })
const options = computed(() => props.offers.map(({ id, name }) => ({ value: id, name })))
</script>

<template>
  <div class="fields">
    <SelectField
      :model-value="attrs.offerId" label="The offer" :options="options" size="small" placeholder="choose an offer" filter
      @update:model-value="(offerId: number | null) => emit('change', { offerId, code: '' })">
      <p class="hint">Its name, price and closing time are those of when the email is sent. One that cannot be bought is left out.</p>
    </SelectField>
    <SelectField
      v-if="coupons.length > 0" :model-value="attrs.code || null" label="With the coupon" size="small" placeholder="none" show-clear
      :options="coupons.map(({ code }) => ({ value: code, name: code }))"
      @update:model-value="(code: string | null) => emit('change', { code: code ?? '' })" />
    <div class="field">
      <label for="offer-label">The button says</label>
      <InputText
        id="offer-label" :model-value="attrs.label" size="small" maxlength="60" placeholder="See it"
        @update:model-value="label => emit('change', { label: label ?? '' })" />
    </div>
  </div>
</template>
