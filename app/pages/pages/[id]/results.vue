<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { NO_RESULT, type OptInFate } from '#core/audience/condition'
import { rateOf } from '#core/stats/rate'
import { sayDay, sayZone } from '#core/time/say'
import { useAddress } from '~/composables/useAddress'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayInterval, sayNumber, sayRate, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import BarsChart, { type Bar } from '~/components/chart/BarsChart.vue'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import TermTip from '~/components/TermTip.vue'

const RESULTS: PlainColumn[] = [
  { key: 'name', head: 'Page' }, { key: 'people', head: 'People', class: 'number' },
  { key: 'share', head: 'Share of answers', class: 'number' },
  { key: 'likely', head: 'Likely' },
]
const SOURCES: PlainColumn[] = [
  { key: 'source', head: 'Source' }, { key: 'visits', head: 'Visits', class: 'number' },
  { key: 'people', head: 'Opted in', class: 'number' }, { key: 'rate', head: 'Rate', class: 'number' }, { key: 'likely', head: 'Likely' },
]
const id = Number(useRoute().params.id)
const frame = useFrame()
const toast = useToast()
const zone = computed(() => frame.zone)
const { values, set } = useAddress({ days: '28' })
const { data: view, problem, load } = useFresh(
  () => api('GET /pages/:id/results', { at: { id }, query: { days: values.value.days } }), () => values.value.days,
)
const bars = computed((): Bar[] => (view.value?.byDay ?? []).map(({ day, at, visits, optIns }) => ({
  key: day, name: sayDay(at, zone.value), counts: [visits, optIns],
  says: `${sayDay(at, zone.value)}: ${saySome(visits, 'visit', 'visits')}, ${saySome(optIns, 'opt-in', 'opt-ins')}`,
})))
const STRETCHES = [7, 28, 90, 365].map(days => ({ value: String(days), name: `the last ${days} days` }))

/** The table of subscribers, narrowed to who opted in here in this stretch; by one touch, or by any. */
const who = (touchId: number | null, did: OptInFate = 'pressed', resultId: string | null = null) => ({ where: JSON.stringify({
  kind: 'all', of: [{ kind: 'opted-in', pageId: id, within: { kind: 'since', at: view.value!.from }, touchId, did, resultId }],
}) })

const naming = useAttempt()
const name = ref('')
async function nameSource() {
  if (!await naming.attempt(() => api('POST /sources', { body: { name: name.value } }))) return
  name.value = ''
  await load()
}
/** What tells one address from another. */
const ending = (url: string) => url.slice(url.lastIndexOf('/p/'))
async function copy(url: string) {
  await navigator.clipboard.writeText(url)
  toast.add({ severity: 'success', summary: 'Copied', detail: url, life: 5000 })
}
</script>

<template>
  <ProblemNote v-if="problem" :of="problem" />
  <div v-else-if="view">
    <PageHead :title="`Results: ${view.name}`" :back="{ to: `/pages/${id}`, name: view.name }">
      {{ view.published ? 'Published.' : 'Not published: visitors find nothing at its address.' }} From {{ sayDay(view.from, zone) }} to
      {{ sayDay(view.to - 1, zone) }}, {{ sayZone(zone) }}.
      <template #actions>
        <Select
          :model-value="values.days" :options="STRETCHES" option-label="name" option-value="value" aria-label="Which days"
          @update:model-value="days => set({ days })" />
      </template>
    </PageHead>

    <div class="figures">
      <div><p class="big">{{ sayNumber(view.visits) }}</p><p class="second">{{ view.visits === 1 ? 'visit' : 'visits' }}</p></div>
      <div>
        <p class="big"><PeopleNumber :people="view.optIns" :query="who(null)" /></p>
        <p class="second">{{ view.optIns === 1 ? 'person' : 'people' }} clicked the button</p>
      </div>
      <div>
        <p class="big">{{ sayRate(view.rate) }}</p>
        <p class="second">
          {{ view.rate.value === null ? (view.optIns ? 'more opt-ins than counted visits' : 'of nothing yet')
            : `${sayNumber(view.rate.part)} of ${sayNumber(view.rate.whole)}; ${sayInterval(view.rate)}` }}
        </p>
      </div>
      <div>
        <p class="big"><PeopleNumber :people="view.counted" :query="who(null, 'counts')" /></p>
        <p class="second">
          {{ view.counted === 1 ? 'is' : 'are' }} in<template v-if="view.notConfirmed > 0">;
            <PeopleNumber :people="view.notConfirmed" :query="who(null, 'not-confirmed')" />
            {{ view.notConfirmed === 1 ? 'has' : 'have' }} not confirmed</template>
        </p>
      </div>
      <div v-if="view.fetched !== null">
        <p class="big"><PeopleNumber :people="view.fetched" :query="who(null, 'fetched')" /></p>
        <p class="second">fetched the file</p>
      </div>
    </div>

    <section class="panel" aria-labelledby="by-day">
      <h2 id="by-day">By day</h2>
      <div class="panel-body">
        <BarsChart
          :bars="bars" :series="['visits', 'opt-ins, each person once a day']" :stretch="`In ${saySome(bars.length, 'day', 'days')}`" />
      </div>
    </section>

    <section v-if="view.byResult.length" class="panel led" aria-labelledby="by-result">
      <h2 id="by-result">Results by answers</h2>
      <PlainTable :rows="view.byResult" :row-key="({ resultId }) => resultId ?? NO_RESULT" :columns="RESULTS">
        <template #name="{ row }">{{ row.name }}</template>
        <template #people="{ row }">
          <PeopleNumber :people="row.optIns" :query="who(null, 'pressed', row.resultId ?? NO_RESULT)" />
        </template>
        <template #share="{ row }">{{ sayRate(rateOf(row.optIns, view!.optIns)) }}</template>
        <template #likely="{ row }"><span class="second">{{ sayInterval(rateOf(row.optIns, view!.optIns)) }}</span></template>
      </PlainTable>
    </section>

    <div class="columns two">
      <section class="panel" aria-labelledby="by-source">
        <div class="panel-head">
          <h2 id="by-source"><TermTip of="source">By source</TermTip></h2>
          <NuxtLink to="/pages/sources" class="small">All pages, with costs</NuxtLink>
        </div>
        <PlainTable v-if="view.bySource.length" :rows="view.bySource" :row-key="({ touchId }) => touchId ?? 0" :columns="SOURCES">
          <template #source="{ row }"><span class="cut" :title="row.says">{{ row.says }}</span></template>
          <template #visits="{ row }">{{ sayNumber(row.visits) }}</template>
          <template #people="{ row }">
            <PeopleNumber v-if="row.touchId !== null" :people="row.optIns" :query="who(row.touchId)" />
            <template v-else>{{ sayNumber(row.optIns) }}</template>
          </template>
          <template #rate="{ row }">{{ sayRate(row.rate) }}</template>
          <template #likely="{ row }"><span class="second">{{ sayInterval(row.rate) }}</span></template>
        </PlainTable>
        <p v-else class="panel-body second">Nobody came in this period. Hand out an address from the right, then look here again.</p>
      </section>
      <section class="panel" aria-labelledby="links">
        <h2 id="links">Addresses to hand out</h2>
        <p class="panel-body second small">One address per place shows who came from there.</p>
        <div v-for="link in view.links" :key="link.id" class="row link">
          <span><strong>{{ link.name }}</strong><span class="mono small second cut" :title="link.url">{{ ending(link.url) }}</span></span>
          <Button
            severity="secondary" size="small" icon="pi pi-copy" label="Copy" :aria-label="`Copy the address for ${link.name}`"
            @click="copy(link.url)" />
        </div>
        <form class="row make" @submit.prevent="nameSource">
          <span class="field">
            <label for="source-name">New address</label>
            <InputText
              id="source-name" v-model="name" maxlength="80" placeholder="workshop flyer" size="small" :invalid="!!naming.problem.value" />
          </span>
          <Button type="submit" severity="secondary" size="small" label="Create address" :loading="naming.busy.value" />
          <p v-if="naming.problem.value" class="problem wide" role="alert">
            {{ naming.problem.value.of('name') ?? naming.problem.value.message }}
          </p>
        </form>
      </section>
    </div>
    <p class="second small foot">A visit is one view of the page, counted without cookies or addresses: looking twice counts twice. Known
      robots are left out. In each period people count once<template v-if="view.byResult.length">; people who answered twice and saw two
        pages count for both</template>.</p>
  </div>
</template>

<style scoped>
.figures {
  display: grid; grid-template-columns: repeat(auto-fit, minmax(150px, 1fr)); gap: 20px; border-top: 2px solid var(--p-porch-ink);
  padding: 12px 0 16px;
}
.big { font: 650 27px/1.2 var(--heading); }
.two { grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr); margin-top: 16px; }
.led { margin-top: 16px; }
.link { display: flex; gap: 12px; align-items: center; justify-content: space-between; }
.link .p-button { flex: none; }
.link > span { min-width: 0; display: grid; }
.make { display: flex; flex-wrap: wrap; gap: 8px; align-items: end; }
.make .field { flex: 1; min-width: 140px; }
.problem { color: var(--p-porch-brick); flex-basis: 100%; }
.foot { padding-top: 14px; }
@media (max-width: 1000px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
