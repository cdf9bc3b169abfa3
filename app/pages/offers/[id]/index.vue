<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import { sayMoney } from '#core/money/money'
import { boxHtml } from '#core/offers/boxHtml'
import { standingOf, type OfferContent } from '#core/offers/offer'
import { renderOffer } from '#core/offers/render'
import { sayStanding } from '#core/offers/say'
import type { Mark } from '#core/page/editing'
import { renderThanks } from '#core/page/render'
import { NO_TOUCH } from '#core/page/touch'
import type { OfferView } from '#core/views/offers'
import { ownsEmails } from '~/composables/emailOwner'
import { api } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useMarks } from '~/composables/useMarks'
import { provideParts } from '~/composables/useParts'
import { PAGE_SIDES, usePageSide } from '~/composables/usePageSide'
import { usePublished } from '~/composables/usePublished'
import { aheadAsTyped } from '~/words/opening'
import { sayPeople, saySome } from '#core/stats/say'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import PartTabs from '~/components/PartTabs.vue'
import SaveNote from '~/components/SaveNote.vue'
import PricePanel from '~/components/offer/PricePanel.vue'
import ThemePanel from '~/components/page/ThemePanel.vue'
import PageCanvas from '~/components/page/PageCanvas.vue'
import PhoneView from '~/components/page/PhoneView.vue'
import SectionList from '~/components/page/SectionList.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const AfterPayingPanel = whenNeeded(() => import('~/components/offer/AfterPayingPanel.vue'))
const ButtonPanel = whenNeeded(() => import('~/components/offer/ButtonPanel.vue'))
const CouponsPanel = whenNeeded(() => import('~/components/offer/CouponsPanel.vue'))
const OfferGivesPanel = whenNeeded(() => import('~/components/offer/OfferGivesPanel.vue'))
const WaitingPanel = whenNeeded(() => import('~/components/offer/WaitingPanel.vue'))
const AddressPanel = whenNeeded(() => import('~/components/page/AddressPanel.vue'))
const RulesBeside = whenNeeded(() => import('~/components/rule/RulesBeside.vue'))

const id = Number(useRoute().params.id)
ownsEmails(ref({ kind: 'offer', id }))
const frame = useFrame()
const { lists, tags, make } = useMarks()
const { parts } = provideParts()
const { values, set } = useAddress({ part: 'price' })

/** In the order in which they are decided. */
const PARTS = [
  { value: 'price', name: 'Price and dates' }, { value: 'waiting', name: 'Waiting list' }, { value: 'page', name: 'The page' },
  { value: 'coupons', name: 'Coupons' }, { value: 'gives', name: 'What it gives' }, { value: 'after', name: 'After paying' },
  { value: 'address', name: 'Button and address' },
]
/** Which part shows what is missing in a field; what is not named here is told on the page itself. */
const PART_OF: Record<string, string> = {
  'price.amount': 'price', 'price.parts': 'price', 'price.currency': 'price', closesAt: 'price', opensAgainAt: 'price', places: 'price',
  'waiting': 'waiting', 'waiting.confirm': 'waiting', 'waiting.opening': 'waiting', listIds: 'gives', tagIds: 'gives', courseId: 'gives',
  endsCourseIds: 'gives', fields: 'gives', renewalFieldId: 'gives', file: 'gives',
  receipt: 'after', thanks: 'after', form: 'address', name: 'address', slug: 'address',
}
const partOf = (field: string) => PART_OF[field] ?? 'page'

const { view, typed, saving, notThere, load, missing, wrong, publish, takeDown } = usePublished<OfferContent, OfferView>({
  ask: () => api('GET /offers/:id', { at: { id } }),
  save: (body, ifMatch) => api('PUT /offers/:id', { at: { id }, body, ifMatch }),
  publish: ifMatch => api('POST /offers/:id/publish', { at: { id }, ifMatch }),
  takeDown: () => api('DELETE /offers/:id/publish', { at: { id } }),
  show: body => api('PUT /offers/:id/shown', { at: { id }, body }),
}, {
  goTo(field) {
    set({ part: partOf(field) })
    if (partOf(field) === 'page') goTo(field, typed.value!.draft.sections)
  },
  published: 'Buyers now see version N.',
  takenDown: 'Nobody can buy it now.',
  except: 'What was sold or sent meanwhile stays so.',
  takeDown: {
    header: 'Take this offer down',
    message: 'Visitors will find nothing at its address, and nobody can buy it. Buyers keep what they have and their own page. You can publish it again.',
  },
})
const { state, problem } = saving
const { pictures, bring, chosen, side, face, path, goTo } = usePageSide(view)

const canvas = ref<InstanceType<typeof PageCanvas>>()

const zone = computed(() => frame.zone)
const now = computed(() => frame.now)
const standing = computed(() => standingOf(typed.value!.draft, now.value, view.value!.taken))
const boxView = computed(() => ({
  content: typed.value!.draft, standing: standing.value, zone: zone.value, hasCoupons: view.value!.coupons.length > 0, coupon: null,
  code: '', action: '', touch: NO_TOUCH,
}))
const box = (mark: Mark) => boxHtml({ ...boxView.value, mark })
const shapeOfBox = computed(() => {
  const { price, form, opensAt, closesAt, opensAgainAt, places } = typed.value!.draft
  return [price, form.firstName, opensAt, closesAt, opensAgainAt, places, standing.value, view.value!.coupons.length]
})
/** What a visitor sees at this part of the way, as a phone shows it. */
const seen = computed(() => {
  if (!typed.value || !view.value) return ''
  const { draft } = typed.value
  if (values.value.part === 'after') return renderThanks({ thanks: draft.thanks, theme: draft.theme, ...face.value })
  return renderOffer({
    ...boxView.value, ...face.value, url: '', at: path, now: now.value,
    pictures: new Map(pictures.value.map(picture => [picture.id, picture])),
  })
})
const hasPhone = computed(() =>
  values.value.part === 'page' ? side.value === 'phone' : ['price', 'after', 'address'].includes(values.value.part))

/** How many of those who wait would hear of it in the moment of publishing. */
const toldAtOnce = computed(() => {
  const waiting = view.value?.waiting
  if (!waiting || !typed.value?.draft.waiting || (view.value!.status === 'published' && !view.value!.hasChanges)) return 0
  return waiting.ahead.bits[0]?.at === now.value
    ? 0
    : aheadAsTyped(typed.value.draft, view.value!, now.value).bits.find(({ at }) => at <= now.value)?.people ?? 0
})

const ending = useEnding()
const waiting = computed(() => view.value?.waiting?.people ?? 0)
const deleteIt = () => ending.ask({
  thing: { kind: 'offer', id }, header: `Delete ${view.value!.name}?`, acceptLabel: 'Delete the offer',
  message: `It is off the web at once. Buyers keep it, with receipts and file. Its sales stay in the histories.${
    waiting.value > 0 ? ` ${sayPeople(waiting.value)} on the waiting list will get no email.` : ''}`,
  accept: async () => {
    await api('DELETE /offers/:id', { at: { id } })
    await frame.changed()
    await navigateTo('/offers')
  },
})
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="view && typed && parts">
    <PageHead :title="typed.name" :back="{ to: '/offers', name: 'Offers' }">
      <template v-if="view.status === 'published'">
        {{ view.stands }}. Version {{ view.versionNumber }}{{ view.hasChanges ? ', with changes buyers do not see yet' : '' }}.
        <NuxtLink
          v-if="view.sold" :to="{ path: `/offers/${id}/sales`, query: { days: 730, state: 'owned' } }">
          {{ saySome(view.sold, 'purchase', 'purchases') }}</NuxtLink><template v-else>Nothing sold yet</template><template
          v-if="view.money.length">, {{ view.money.map(sayMoney).join(' and ') }}</template>.
      </template>
      <template v-else>Draft. Only you can see it. Visitors would see: {{ sayStanding(standing, zone) }}.</template>
      {{ ' ' }}<SaveNote :draft="saving" :state="state" :problem="problem ? problem.message : null" />
      <template #actions>
        <ThingActions kind="offer" :id="id" :to="one => `/offers/${one}`" />
        <Button severity="secondary" icon="pi pi-trash" aria-label="Delete this offer" title="Delete this offer" @click="deleteIt" />
        <NuxtLink :to="`/offers/${id}/sales`" class="sales">Sales</NuxtLink>
        <Button
          v-if="view.status === 'published'" as="a" :href="view.url" target="_blank" rel="noopener" label="Open the page"
          severity="secondary" icon="pi pi-external-link" icon-pos="right" />
        <Button v-if="view.status === 'published'" label="Take it down" severity="secondary" @click="takeDown" />
        <Button
          v-if="view.status === 'draft' || view.hasChanges"
          :label="view.status === 'published' ? 'Publish the changes' : 'Publish the offer'" @click="publish" />
      </template>
    </PageHead>

    <p v-if="missing.length > 0" class="note brick not-yet" role="alert">Not published yet.
      {{ missing.map(entry => entry.problem).join(' ') }}</p>
    <p v-if="view.oversold > 0" class="note brick not-yet" role="alert">{{ saySome(view.oversold, 'place more was', 'places more were') }}
      sold than there are: the payment was reported when others had taken the place. Make room, or refund.</p>
    <p v-if="toldAtOnce > 0" class="note not-yet">Publishing this sends the opening email to {{ sayPeople(toldAtOnce) }} at once.</p>
    <PartTabs
      :parts="PARTS" :chosen="values.part" :wanting="part => missing.some(({ field }) => partOf(field) === part)" label="Parts of the offer"
      @choose="part => set({ part })" />

    <div class="columns" :class="hasPhone ? 'with-phone' : values.part === 'page' ? 'with-list' : ''">
      <PageCanvas
        v-if="values.part === 'page'" ref="canvas" v-model="typed.draft" v-model:chosen="chosen" :pictures="pictures" :box="box"
        :shape-of-box="shapeOfBox" />
      <PricePanel v-else-if="values.part === 'price'" v-model="typed.draft" :view="view" :wrong="wrong" />
      <WaitingPanel
        v-else-if="values.part === 'waiting'" :id="id" v-model="typed.draft" :view="view" :lists="lists" :tags="tags" :make="make"
        :wrong="wrong" />
      <CouponsPanel v-else-if="values.part === 'coupons'" :view="view" @changed="load" />
      <div v-else-if="values.part === 'gives'" class="stack">
        <OfferGivesPanel v-model="typed.draft" :view="view" :lists="lists" :tags="tags" :make="make" :wrong="wrong" />
        <RulesBeside kind="offer" :id="id" />
      </div>
      <AfterPayingPanel v-else-if="values.part === 'after'" v-model="typed.draft" :wrong="wrong" />
      <div v-else class="stack">
        <ButtonPanel v-model="typed.draft.form" :problem="wrong('form')" />
        <AddressPanel v-model="typed" :pictures="pictures" :url="view.url" :wrong="wrong" @picture="bring" />
      </div>

      <aside
        v-if="hasPhone || values.part === 'page'" class="page-side"
        :aria-label="values.part === 'page' ? 'Sections of the page' : 'On a phone'">
        <SelectButton
          v-if="values.part === 'page'" v-model="side" :options="[...PAGE_SIDES]" option-label="name" option-value="value"
          :allow-empty="false" size="small" aria-label="Beside the page" />
        <p v-else class="second small">{{ values.part === 'after' ? 'Links in it' : 'The page' }}, on a phone</p>
        <PhoneView
          v-if="hasPhone" :key="values.part" :html="seen" :show="values.part === 'after' ? undefined : '.offer'" title="On a phone"
          :night="typed.draft.theme.night" />
        <ThemePanel v-else-if="side === 'theme'" v-model="typed.draft.theme" />
        <SectionList
          v-else v-model="typed.draft.sections" v-model:chosen="chosen" :pictures="pictures" :problems="missing" box-name="Price and button"
          @show="section => canvas?.show(section)" @picture="bring" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.not-yet { margin-bottom: 12px; }
.sales { font-weight: 600; align-self: center; }
</style>
