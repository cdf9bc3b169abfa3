<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { sayDay } from '#core/time/say'
import { DAY } from '#core/time/zone'
import type { SegmentLine } from '#core/views/audience'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useUntil } from '~/composables/useUntil'
import { sayNumber, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import ListPage from '~/components/ListPage.vue'
import StateDot from '~/components/StateDot.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: segments, problem, load } = useFresh(() => api('GET /segments'))
const standing = computed(() => segments.value
  ? `${saySome(segments.value.length, 'saved condition', 'saved conditions')} of people, always up to date.`
  : '')
useUntil(() => segments.value?.some(segment => segment.people === null) ?? false, load)

/** How many more or fewer than at the beginning of the stretch; said with its beginning where that is less than 30 days ago. */
function sayChange({ entered30, left30 }: SegmentLine): string {
  const change = entered30 - left30
  return change === 0 ? 'no change' : change > 0 ? `+${sayNumber(change)}` : `−${sayNumber(-change)}`
}
const sinceWhen = ({ countedSince }: SegmentLine) =>
  countedSince > frame.now - 30 * DAY + 1 ? `since ${sayDay(countedSince, zone.value)}` : ''

const COLUMNS: PlainColumn[] = [
  { key: 'segment', head: 'Segment', class: 'whole' },
  { key: 'whoThatIs', head: 'Condition' },
  { key: 'weeks', head: 'Entered a week', class: 'whole' },
  { key: 'inDays', head: 'In 30 days', class: 'number' },
  { key: 'people', head: 'People', class: 'number' },
]
const STATES = [
  { name: 'Being counted', words: 'being counted', dot: 'paused' as const, is: (segment: SegmentLine) => segment.people === null },
  { name: 'Nobody in it', words: 'nobody in it', dot: 'off' as const, is: (segment: SegmentLine) => segment.people === 0 },
  { name: 'Used elsewhere', words: 'used elsewhere', dot: 'on' as const, is: (segment: SegmentLine) => segment.usedBy.length > 0 },
  {
    name: 'Not used elsewhere', words: 'up to date', dot: 'on' as const,
    is: (segment: SegmentLine) => segment.people !== null && segment.people > 0 && segment.usedBy.length === 0,
  },
]
const stateOf = (segment: SegmentLine) => STATES.find(({ is }) => is(segment))!
const ORDERS = [
  { name: 'Most people first', compare: (a: SegmentLine, b: SegmentLine) => (b.people ?? 0) - (a.people ?? 0) },
  { name: 'By name', compare: (a: SegmentLine, b: SegmentLine) => a.name.localeCompare(b.name) },
]
</script>

<template>
  <ListPage
    title="Segments" how="segment" :standing="standing" kind="segment" :rows="segments" :problem="problem" :columns="COLUMNS" to="/segments"
    :weekly="{ kind: 'segment', words: 'People who entered' }" :states="STATES" :orders="ORDERS"
    :find="{ by: ({ name, says }) => [name, says], words: 'names and conditions' }">
    <template #actions><Button label="New segment" @click="navigateTo('/segments/new')" /></template>
    <template #none>
      <h2>Make the first segment</h2>
      <p class="second">For example: people with the tag “likes: coptic” who clicked something in the last 30 days.</p>
    </template>
    <template #segment="{ row }">
      <NuxtLink :to="`/segments/${row.id}`" class="name">{{ row.name }}</NuxtLink>
      <span class="sub"><StateDot :is="stateOf(row).dot" :words="stateOf(row).words" class="small" /></span>
    </template>
    <template #whoThatIs="{ row }">
      people {{ row.says || 'of every kind' }}<span v-if="row.usedBy.length" class="second small sub">
        used by
        <template v-for="(use, n) in row.usedBy" :key="use.id">
          {{ n ? ', ' : '' }}<NuxtLink :to="`/segments/${use.id}`" @click.stop>{{ use.name }}</NuxtLink>
        </template>
      </span>
    </template>
    <template #inDays="{ row }">
      <span :title="`${sayNumber(row.entered30)} came in, ${sayNumber(row.left30)} went out`">
        {{ row.people === null ? '' : sayChange(row) }}
      </span>
      <span class="second small sub">{{ sinceWhen(row) }}</span>
    </template>
    <template #people="{ row }">
      <span v-if="row.people === null" class="second">being counted</span>
      <PeopleNumber v-else :people="row.people" :query="{ segment: row.id }" />
    </template>
  </ListPage>
</template>

<style scoped>
.name { font-weight: 600; }
.sub { display: block; }
</style>
