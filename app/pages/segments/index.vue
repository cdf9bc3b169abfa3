<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { sayDay } from '#core/time/say'
import { DAY } from '#core/time/zone'
import type { SegmentLine } from '#core/views/audience'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useUntil } from '~/composables/useUntil'
import { sayNumber, saySome } from '~/look/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'

const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: segments, problem, load } = useFresh(() => api<SegmentLine[]>('segments'))
useUntil(() => segments.value?.some(segment => segment.people === null) ?? false, load)

/** How many more or fewer than at the beginning of the stretch; said with its beginning where that is less than 30 days ago. */
function sayChange({ entered30, left30 }: SegmentLine): string {
  const change = entered30 - left30
  return change === 0 ? 'as many' : change > 0 ? `+${sayNumber(change)}` : `−${sayNumber(-change)}`
}
const sinceWhen = ({ countedSince }: SegmentLine) => countedSince > frame.now - 30 * DAY + 1 ? `since ${sayDay(countedSince, zone.value)}` : ''
</script>

<template>
  <div>
    <PageHead title="Segments">
      <template v-if="segments">{{ saySome(segments.length, 'saved condition', 'saved conditions') }} about people, always up to date. Nobody has to be put in or taken out.</template>
      <template #actions><Button label="New segment" @click="navigateTo('/segments/new')" /></template>
    </PageHead>
    <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>
    <section v-else-if="segments" class="panel">
      <DataTable :value="segments" data-key="id" @row-click="({ data }) => navigateTo(`/segments/${data.id}`)">
        <Column header="Segment" body-class="whole"><template #body="{ data }: { data: SegmentLine }"><NuxtLink :to="`/segments/${data.id}`" class="name">{{ data.name }}</NuxtLink></template></Column>
        <Column header="Who that is"><template #body="{ data }: { data: SegmentLine }">people {{ data.says || 'of every kind' }}<span v-if="data.usedBy.length" class="second small sub">used by <template v-for="(use, n) in data.usedBy" :key="use.id">{{ n ? ', ' : '' }}<NuxtLink :to="`/segments/${use.id}`" @click.stop>{{ use.name }}</NuxtLink></template></span></template></Column>
        <Column header="In 30 days" header-class="number" body-class="number"><template #body="{ data }: { data: SegmentLine }"><span :title="`${sayNumber(data.entered30)} came in, ${sayNumber(data.left30)} went out`">{{ data.people === null ? '' : sayChange(data) }}</span><span class="second small sub">{{ sinceWhen(data) }}</span></template></Column>
        <Column header="People" header-class="number" body-class="number"><template #body="{ data }: { data: SegmentLine }"><span v-if="data.people === null" class="second">being counted</span><PeopleNumber v-else :people="data.people" :query="{ segment: data.id }" /></template></Column>
      </DataTable>
    </section>
  </div>
</template>

<style scoped>
.name { font-weight: 600; }
.sub { display: block; }
:deep(td.whole) { white-space: nowrap; }
:deep(tr) { cursor: pointer; }
</style>
