<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { sayCut, sayPriceWith } from '#core/offers/say'
import { sayMoment, sayZone } from '#core/time/say'
import type { CouponLine, OfferView } from '#core/views/offers'
import { api } from '~/composables/useApi'
import { sayNumber } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import CouponForm from './CouponForm.vue'

/** The coupons of the offer, in the order in which they were made. */
const props = defineProps<{ view: OfferView }>()
const emit = defineEmits<{ changed: [] }>()
const frame = useFrame()
const confirm = useConfirm()
const undo = useUndo()
const COLUMNS: PlainColumn[] = [
  { key: 'code', head: 'Code' }, { key: 'cut', head: 'Discount' }, { key: 'valid', head: 'Valid' },
  { key: 'used', head: 'Purchases', class: 'number' }, { key: 'end', head: '', class: 'number' },
]
/** `null`: a new one. */
const editing = ref<CouponLine | null | undefined>()
const zone = () => frame.zone
const stretch = ({ fromAt, untilAt }: CouponLine) => [
  fromAt !== null && `from ${sayMoment(fromAt, zone())}`, untilAt !== null && `until ${sayMoment(untilAt, zone())}`,
].filter(Boolean).join(' ') || 'always'

function end(coupon: CouponLine) {
  confirm.require({
    header: `End ${coupon.code}`,
    message: 'Nobody can use it from now on. People who bought with it, or are paying right now, keep their price.',
    acceptProps: { label: 'End it', severity: 'danger' }, rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: async () => {
      const at = { id: props.view.id, couponId: coupon.id }
      await api('DELETE /offers/:id/coupons/:couponId', { at })
      emit('changed')
      undo.did({ said: `The coupon ${coupon.code} has ended.`, undo: async () => {
        await api('POST /offers/:id/coupons/:couponId/again', { at })
        emit('changed')
      } })
    },
  })
}
function saved() {
  editing.value = undefined
  emit('changed')
}
</script>

<template>
  <div class="stack">
    <section class="panel" aria-labelledby="coupons">
      <div class="panel-head">
        <h2 id="coupons">Coupons</h2>
        <Button label="New coupon" size="small" severity="secondary" icon="pi pi-plus" @click="editing = null" />
      </div>
      <PlainTable v-if="view.coupons.length" :rows="view.coupons" :columns="COLUMNS">
        <template #code="{ row }"><button type="button" class="link-button mono" @click="editing = row">{{ row.code }}</button></template>
        <template #cut="{ row }">
          {{ sayCut(row, view.draft.price) }} <span class="second small">to {{ sayPriceWith(view.draft.price, row) }}</span>
        </template>
        <template #valid="{ row }">
          {{ stretch(row) }}<span v-if="row.problem" class="chip not">{{ row.problem.replace(/^This code /, '').replace(/\.$/, '') }}</span>
        </template>
        <template #used="{ row }">
          <span>
            <NuxtLink v-if="row.used" :to="{ path: `/offers/${view.id}/sales`, query: { coupon: row.id, days: 730 } }">
              {{ sayNumber(row.used) }}</NuxtLink>
            <template v-else>0</template>
            <span v-if="row.uses !== null" class="second"> of {{ sayNumber(row.uses) }}</span>
            <span v-if="row.kept" class="second small">, {{ sayNumber(row.kept) }} paying</span>
          </span>
        </template>
        <template #head-end><span class="hidden-label">End it</span></template>
        <template #end="{ row }">
          <Button
            icon="pi pi-trash" text size="small" severity="secondary" :aria-label="`End ${row.code}`" title="End it" @click="end(row)" />
        </template>
      </PlainTable>
      <p v-else class="panel-body second">No coupons yet. For example, EARLY takes 30 percent off until Friday at 20:00, for the first
        twenty buyers.</p>
    </section>
    <p class="second small">Coupons are valid at once, without publishing. A code at the end of the page’s address fills it in:
      <span class="mono">{{ view.url }}?code={{ view.coupons[0]?.code ?? 'EARLY' }}</span>. Times are in {{ sayZone(zone()) }}.</p>
    <CouponForm
      v-if="editing !== undefined" :key="editing?.id ?? 0" :offer-id="view.id" :price="view.draft.price" :coupon="editing"
      @close="editing = undefined" @saved="saved" />
  </div>
</template>

<style scoped>
.not { margin-left: 6px; }
</style>
