<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Column from 'primevue/column'
import ColumnGroup from 'primevue/columngroup'
import DataTable from 'primevue/datatable'
import Row from 'primevue/row'
import Select from 'primevue/select'
import { peopleFrom } from '#core/audience/fromSource'
import { sayMoney, type Money } from '#core/money/money'
import { isSameSource, type SourceKey } from '#core/page/touch'
import { sayDay, sayZone } from '#core/time/say'
import type { SourceLine } from '#core/views/sources'
import { useAddress } from '~/composables/useAddress'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber } from '~/words/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
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
      <DataTable :value="view.lines" :data-key="(line: SourceLine) => `${line.source.kind} ${line.source.word}`">
        <Column header="Source">
          <template #body="{ data }: { data: SourceLine }"><span class="cut" :title="data.says">{{ data.says }}</span></template>
        </Column>
        <Column header="Visits" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">{{ sayNumber(data.visits) }}</template>
        </Column>
        <Column header="Subscribers" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">
            <PeopleNumber :people="data.subscribers" :query="who(data.source, false)" />
          </template>
        </Column>
        <Column header="Still reading" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">
            <PeopleNumber :people="data.reading" :query="who(data.source, true)" />
          </template>
        </Column>
        <Column header="Spent" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">
            <Button
              v-if="data.source.kind !== 'untold'" size="small" text severity="secondary"
              :label="data.spent.length ? saySums(data.spent) : 'write down'"
              :aria-label="`Money spent on ${data.says}: ${data.spent.length ? saySums(data.spent) : 'nothing yet'}`" class="spent"
              @click="costsOf = data.source" />
          </template>
        </Column>
        <Column header="Per subscriber" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">{{ say(data.perSubscriber) }}</template>
        </Column>
        <Column header="Per one still reading" header-class="number" body-class="number">
          <template #body="{ data }: { data: SourceLine }">{{ say(data.perReading) }}</template>
        </Column>
        <ColumnGroup type="footer">
          <Row>
            <Column footer="All together" />
            <Column footer-class="number"><template #footer>{{ sayNumber(view!.total.visits) }}</template></Column>
            <Column footer-class="number">
              <template #footer><PeopleNumber :people="view!.total.subscribers" :query="who(null, false)" /></template>
            </Column>
            <Column footer-class="number">
              <template #footer><PeopleNumber :people="view!.total.reading" :query="who(null, true)" /></template>
            </Column>
            <Column footer-class="number"><template #footer><span class="sum">{{ saySums(view!.total.spent) }}</span></template></Column>
            <Column footer-class="number"><template #footer>{{ say(view!.total.perSubscriber) }}</template></Column>
            <Column footer-class="number"><template #footer>{{ say(view!.total.perReading) }}</template></Column>
          </Row>
        </ColumnGroup>
      </DataTable>
    </section>
    <p v-else class="panel panel-body second">Nobody has come in these months. Addresses to hand out are made in the results of a page.</p>
    <p class="second small foot">Subscribers count under their first source, in the month they came, once they have confirmed where asked. Imported people are left out. Still reading: active, and opened or clicked something in the last {{ view.readingDays }} days. Shares of the money are rounded to the smallest unit, halves to even; different currencies are never added.</p>
    <CostsPanel
      v-if="costsOf" :key="`${costsOf.kind} ${costsOf.word}`" :source="costsOf"
      :says="view.lines.find(line => isSameSource(line.source, costsOf!))?.says ?? ''" @close="costsOf = null" @saved="load" />
  </div>
</template>

<style scoped>
.spent { padding: 1px 4px; margin: -2px -4px; }
.sum { padding-right: 0; }
.foot { padding-top: 14px; max-width: 86ch; }
:deep(.p-datatable-tfoot td) { padding-inline: 12px; font-weight: 600; border-top: 2px solid var(--p-porch-ink); }
</style>
