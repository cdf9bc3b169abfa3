<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { useConfirm } from 'primevue/useconfirm'
import { sayCut, sayPriceWith } from '#core/offers/say'
import { sayMoment, sayZone } from '#core/time/say'
import type { CouponLine, OfferView } from '#core/views/offers'
import { api } from '~/composables/useApi'
import { sayNumber } from '~/words/say'
import { useFrame } from '~/stores/frame'
import CouponForm from './CouponForm.vue'

/** The coupons of the offer, in the order in which they were made. */
const props = defineProps<{ view: OfferView }>()
const emit = defineEmits<{ changed: [] }>()
const frame = useFrame()
const confirm = useConfirm()
/** `null`: a new one. */
const editing = ref<CouponLine | null | undefined>()
const zone = () => frame.zone
const stretch = ({ fromAt, untilAt }: CouponLine) => [
  fromAt !== null && `from ${sayMoment(fromAt, zone())}`, untilAt !== null && `until ${sayMoment(untilAt, zone())}`,
].filter(Boolean).join(' ') || 'always'

function end(coupon: CouponLine) {
  confirm.require({
    header: `End ${coupon.code}`,
    message: 'Nobody can use it from now on. People who bought with it keep their price, and so do people who are paying right now.',
    acceptProps: { label: 'End it', severity: 'danger' }, rejectProps: { label: 'Leave it', severity: 'secondary' },
    accept: async () => {
      await api('DELETE /offers/:id/coupons/:couponId', { at: { id: props.view.id, couponId: coupon.id } })
      emit('changed')
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
      <DataTable v-if="view.coupons.length" :value="view.coupons" data-key="id">
        <Column header="Code">
          <template #body="{ data }: { data: CouponLine }">
            <button type="button" class="link-button mono" @click="editing = data">{{ data.code }}</button>
          </template>
        </Column>
        <Column header="Takes off">
          <template #body="{ data }: { data: CouponLine }">
            {{ sayCut(data, view.draft.price) }} <span class="second small">to {{ sayPriceWith(view.draft.price, data) }}</span>
          </template>
        </Column>
        <Column header="Counts">
          <template #body="{ data }: { data: CouponLine }">
            {{ stretch(data) }}<span v-if="data.problem" class="chip not">
              {{ data.problem.replace(/^This code /, '').replace(/\.$/, '') }}</span>
          </template>
        </Column>
        <Column header="Bought with it" header-class="number" body-class="number">
          <template #body="{ data }: { data: CouponLine }">
            <NuxtLink v-if="data.used" :to="{ path: `/offers/${view.id}/sales`, query: { coupon: data.id, days: 730 } }">
              {{ sayNumber(data.used) }}
            </NuxtLink>
            <template v-else>0</template>
            <span v-if="data.uses !== null" class="second"> of {{ sayNumber(data.uses) }}</span>
            <span v-if="data.kept" class="second small">, {{ sayNumber(data.kept) }} paying</span>
          </template>
        </Column>
        <Column header-class="number" body-class="number">
          <template #header><span class="hidden-label">End it</span></template>
          <template #body="{ data }: { data: CouponLine }">
            <Button
              icon="pi pi-trash" text size="small" severity="secondary" :aria-label="`End ${data.code}`" title="End it" @click="end(data)"
            />
          </template>
        </Column>
      </DataTable>
      <p v-else class="panel-body second">None so far. For example: EARLY takes 30 percent off, until Friday at 20:00, for the first
        twenty.</p>
    </section>
    <p class="second small">Coupons count at once, without publishing anything. With a code at the end of the page’s address it is filled in: <span class="mono">{{ view.url }}?code={{ view.coupons[0]?.code ?? 'EARLY' }}</span>. Times are in {{ sayZone(zone()) }}.</p>
    <CouponForm
      v-if="editing !== undefined" :key="editing?.id ?? 0" :offer-id="view.id" :price="view.draft.price" :coupon="editing"
      @close="editing = undefined" @saved="saved" />
  </div>
</template>

<style scoped>
.not { margin-left: 6px; }
</style>
