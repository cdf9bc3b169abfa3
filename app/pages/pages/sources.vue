<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { peopleFrom } from '#core/audience/fromSource'
import { sayMoney, type Money } from '#core/money/money'
import { isSameSource, type SourceKey } from '#core/page/touch'
import { sayDay, sayZone } from '#core/time/say'
import { useAddress } from '~/composables/useAddress'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import CostsPanel from '~/components/page/CostsPanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const zone = computed(() => frame.zone)
const { values, set } = useAddress({ months: '3' })
const { data: view, problem, load } = useFresh(
  () => api('GET /sources', { query: { months: values.value.months } }), () => values.value.months,
)
const STRETCHES = [
  { value: '1', name: 'this month' }, ...[3, 6, 12].map(months => ({ value: String(months), name: `the last ${months} months` })),
]
const COLUMNS: PlainColumn[] = [
  { key: 'source', head: 'Source' }, { key: 'visits', head: 'Visits', class: 'number' },
  { key: 'subscribers', head: 'Subscribers', class: 'number' }, { key: 'reading', head: 'Still reading', class: 'number' },
  { key: 'spent', head: 'Spent', class: 'number' }, { key: 'perSubscriber', head: 'Per subscriber', class: 'number' },
  { key: 'perReading', head: 'Per person still reading', class: 'number' },
]
const costsOf = ref<SourceKey | null>(null)

const who = (source: SourceKey | null, reading: boolean) => ({ where: JSON.stringify(peopleFrom(view.value!, source, reading)) })
const say = (money: Money | null) => money === null ? '' : sayMoney(money)
const saySums = (sums: Money[]) => sums.map(sayMoney).join(' and ')
</script>

<template>
  <ProblemNote v-if="problem" :of="problem" />
  <div v-else-if="view">
    <PageHead title="Sources" how="source" :back="{ to: '/pages', name: 'Opt-in pages' }">
      Over all pages, from {{ sayDay(view.from, zone) }} to {{ sayDay(view.to - 1, zone) }}, {{ sayZone(zone) }}.
      <template #actions>
        <Select
          :model-value="values.months" :options="STRETCHES" option-label="name" option-value="value" aria-label="Which months"
          @update:model-value="months => set({ months })" />
      </template>
    </PageHead>
    <section v-if="view.lines.length" class="panel" aria-label="Sources">
      <PlainTable :rows="view.lines" :row-key="({ source: { kind, word } }) => `${kind} ${word}`" :columns="COLUMNS" total>
        <template #source="{ row }"><span class="cut" :title="row.says">{{ row.says }}</span></template>
        <template #visits="{ row }">{{ sayNumber(row.visits) }}</template>
        <template #subscribers="{ row }"><PeopleNumber :people="row.subscribers" :query="who(row.source, false)" /></template>
        <template #reading="{ row }"><PeopleNumber :people="row.reading" :query="who(row.source, true)" /></template>
        <template #spent="{ row }">
          <Button
            v-if="row.source.kind !== 'untold'" size="small" text severity="secondary"
            :label="row.spent.length ? saySums(row.spent) : 'add costs'"
            :aria-label="`Money spent on ${row.says}: ${row.spent.length ? saySums(row.spent) : 'nothing yet'}`" class="spent"
            @click="costsOf = row.source" />
        </template>
        <template #perSubscriber="{ row }">{{ say(row.perSubscriber) }}</template>
        <template #perReading="{ row }">{{ say(row.perReading) }}</template>
        <template #total-source>All together</template>
        <template #total-visits>{{ sayNumber(view!.total.visits) }}</template>
        <template #total-subscribers><PeopleNumber :people="view!.total.subscribers" :query="who(null, false)" /></template>
        <template #total-reading><PeopleNumber :people="view!.total.reading" :query="who(null, true)" /></template>
        <template #total-spent>{{ saySums(view!.total.spent) }}</template>
        <template #total-perSubscriber>{{ say(view!.total.perSubscriber) }}</template>
        <template #total-perReading>{{ say(view!.total.perReading) }}</template>
      </PlainTable>
    </section>
    <p v-else class="panel panel-body second">Nobody came in these months. You make addresses to hand out in a page’s results.</p>
    <p class="second small foot">Subscribers count for their first source, in the month they came, once confirmed. Imported people are
      left out. Still reading: active, and opened or clicked something in the last {{ view.readingDays }} days. Shares of money are
      rounded to the smallest unit. Currencies are never added up.</p>
    <CostsPanel
      v-if="costsOf" :key="`${costsOf.kind} ${costsOf.word}`" :source="costsOf"
      :says="view.lines.find(line => isSameSource(line.source, costsOf!))?.says ?? ''" @close="costsOf = null" @saved="load" />
  </div>
</template>

<style scoped>
.spent { padding: 1px 4px; margin: -2px -4px; }
.foot { padding-top: 14px; max-width: 86ch; }
</style>
