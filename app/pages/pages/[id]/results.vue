<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { NO_RESULT, type OptInFate } from '#core/audience/condition'
import { rateOf } from '#core/stats/rate'
import { sayDay, sayZone } from '#core/time/say'
import type { PageResults } from '#core/views/pages'
import { useAddress } from '~/composables/useAddress'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayInterval, sayNumber, sayRate, saySome } from '~/words/say'
import { useFrame } from '~/stores/frame'
import BarsChart, { type Bar } from '~/components/chart/BarsChart.vue'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ProblemNote from '~/components/ProblemNote.vue'

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
  toast.add({ severity: 'success', summary: 'Copied', detail: url, life: 3000 })
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
        <p class="second">{{ view.optIns === 1 ? 'person' : 'people' }} pressed the button</p>
      </div>
      <div>
        <p class="big">{{ sayRate(view.rate) }}</p>
        <p class="second">
          {{ view.rate.value === null ? (view.optIns ? 'more opted in than visits were counted' : 'of nothing yet') : `${sayNumber(view.rate.part)} of ${sayNumber(view.rate.whole)}; ${sayInterval(view.rate)}` }}
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
          :bars="bars" :series="['visits', 'opt-ins, people once a day']" :stretch="`In ${saySome(bars.length, 'day', 'days')}`" />
      </div>
    </section>

    <section v-if="view.byResult.length" class="panel led" aria-labelledby="by-result">
      <h2 id="by-result">Where their answers led</h2>
      <DataTable :value="view.byResult" data-key="resultId">
        <Column header="Page"><template #body="{ data }: { data: PageResults['byResult'][number] }">{{ data.name }}</template></Column>
        <Column header="People" header-class="number" body-class="number">
          <template #body="{ data }: { data: PageResults['byResult'][number] }">
            <PeopleNumber :people="data.optIns" :query="who(null, 'pressed', data.resultId ?? NO_RESULT)" />
          </template>
        </Column>
        <Column header="Of all who answered" header-class="number" body-class="number">
          <template #body="{ data }: { data: PageResults['byResult'][number] }">{{ sayRate(rateOf(data.optIns, view!.optIns)) }}</template>
        </Column>
        <Column header="Likely" body-class="second">
          <template
            #body="{ data }: { data: PageResults['byResult'][number] }">{{ sayInterval(rateOf(data.optIns, view!.optIns)) }}</template>
        </Column>
      </DataTable>
    </section>

    <div class="columns two">
      <section class="panel" aria-labelledby="by-source">
        <div class="panel-head">
          <h2 id="by-source">By what brought them</h2>
          <NuxtLink to="/pages/sources" class="small">Over all pages, with what it cost</NuxtLink>
        </div>
        <DataTable v-if="view.bySource.length" :value="view.bySource" data-key="touchId">
          <Column header="Source">
            <template #body="{ data }: { data: PageResults['bySource'][number] }">
              <span class="cut" :title="data.says">{{ data.says }}</span>
            </template>
          </Column>
          <Column header="Visits" header-class="number" body-class="number">
            <template #body="{ data }: { data: PageResults['bySource'][number] }">{{ sayNumber(data.visits) }}</template>
          </Column>
          <Column header="Opted in" header-class="number" body-class="number">
            <template #body="{ data }: { data: PageResults['bySource'][number] }">
              <PeopleNumber v-if="data.touchId !== null" :people="data.optIns" :query="who(data.touchId)" />
              <template v-else>{{ sayNumber(data.optIns) }}</template>
            </template>
          </Column>
          <Column header="Rate" header-class="number" body-class="number">
            <template #body="{ data }: { data: PageResults['bySource'][number] }">{{ sayRate(data.rate) }}</template>
          </Column>
          <Column header="Likely" body-class="second">
            <template #body="{ data }: { data: PageResults['bySource'][number] }">{{ sayInterval(data.rate) }}</template>
          </Column>
        </DataTable>
        <p v-else class="panel-body second">Nobody has come in these days. Hand out an address from the right, and look here again.</p>
      </section>
      <section class="panel" aria-labelledby="links">
        <h2 id="links">Addresses to hand out</h2>
        <p class="panel-body second small">Give each place its own address, and you see here who came by it. What others put behind an address as utm_source and the like is counted, too.</p>
        <div v-for="link in view.links" :key="link.id" class="row link">
          <span><strong>{{ link.name }}</strong><span class="mono small second cut" :title="link.url">{{ ending(link.url) }}</span></span>
          <Button
            severity="secondary" size="small" icon="pi pi-copy" label="Copy" :aria-label="`Copy the address for ${link.name}`"
            @click="copy(link.url)" />
        </div>
        <form class="row make" @submit.prevent="nameSource">
          <span class="field">
            <label for="source-name">A new one</label>
            <InputText
              id="source-name" v-model="name" maxlength="80" placeholder="workshop flyer" size="small" :invalid="!!naming.problem.value" />
          </span>
          <Button type="submit" severity="secondary" size="small" label="Make its address" :loading="naming.busy.value" />
          <p v-if="naming.problem.value" class="problem wide" role="alert">
            {{ naming.problem.value.of('name') ?? naming.problem.value.message }}
          </p>
        </form>
      </section>
    </div>
    <p class="second small foot">A visit is one showing of the page. It is counted without cookies, addresses or fingerprints, so somebody who looks twice counts twice; known robots are left out. Of each stretch people count once<template v-if="view.byResult.length">; whoever answered twice and came to two pages counts with both</template>.</p>
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
