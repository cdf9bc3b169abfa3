<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import type { Condition } from '#core/audience/condition'
import { sayDay } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PeopleNumber from '~/components/PeopleNumber.vue'
import type { LinkLine } from '#core/views/links'
import ListPage from '~/components/ListPage.vue'
import StateDot from '~/components/StateDot.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

/** The library of tracked links. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: links, problem } = useFresh(() => api('GET /links'))
const followed = (linkId: number) =>
  JSON.stringify({ kind: 'all', of: [{ kind: 'followed', linkId, within: null, times: 1 }] } satisfies Condition)
const standing = computed(() => {
  const all = links.value ?? []
  const broken = all.filter(link => link.trouble !== null).length
  return all.length === 0
    ? 'Named destinations in your emails that know who clicked them.'
    : `${saySome(all.length, 'destination', 'destinations')}, clicked ${sayNumber(all.reduce((sum, { clicks }) => sum + clicks, 0))} times by readers.${broken ? ` ${saySome(broken, 'does not answer', 'do not answer')}.` : ''}`
})

const COLUMNS: PlainColumn[] = [
  { key: 'link', head: 'Link' },
  { key: 'whatFollowingItBrings', head: 'What a click does' },
  { key: 'weeks', head: 'Clicks a week' },
  { key: 'emails', head: 'Emails', class: 'number' },
  { key: 'people', head: 'People', class: 'number' },
  { key: 'clicks', head: 'Clicks', class: 'number' },
  { key: 'machines', head: 'Automated', class: 'number' },
  { key: 'last', head: 'Last', class: 'number' },
]
const STATES = [
  { name: 'Works', is: (link: LinkLine) => link.trouble === null && link.emails > 0 },
  { name: 'In no email yet', is: (link: LinkLine) => link.emails === 0 },
  { name: 'Does something', is: (link: LinkLine) => link.does.length + link.doesThere.length + link.rules > 0 },
  { name: 'Does not answer', is: (link: LinkLine) => link.trouble !== null },
]
const ORDERS = [
  { name: 'Most clicks first', compare: (a: LinkLine, b: LinkLine) => b.clicks - a.clicks },
  { name: 'Last clicked first', compare: (a: LinkLine, b: LinkLine) => (b.lastAt ?? 0) - (a.lastAt ?? 0) },
  { name: 'By name', compare: (a: LinkLine, b: LinkLine) => a.name.localeCompare(b.name) },
]
</script>

<template>
  <ListPage
    title="Links" how="link" :standing="standing" kind="link" :rows="links" :problem="problem" :columns="COLUMNS" to="/links"
    :weekly="{ kind: 'link', words: 'Clicks by readers' }" :states="STATES" :orders="ORDERS"
    :find="{ by: ({ name, url }) => [name, url], words: 'names and addresses' }">
    <template #actions><Button label="New link" @click="navigateTo('/links/new')" /></template>
    <template #none>
      <h2>Make the first link</h2>
      <p class="second">Links in your emails appear here once you publish. You can also make one first and choose it while writing:
        “coptic” adds the tag “likes: coptic”.</p>
    </template>
    <template #link="{ row }">
      <NuxtLink :to="`/links/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink>
      <span class="second small sub cut">{{ row.url }}</span>
      <span v-if="row.trouble" class="sub wrong"><StateDot is="trouble" :words="row.trouble" class="small" /></span>
      <span v-else-if="row.emails === 0" class="sub"><StateDot is="off" words="in no email yet" class="small" /></span>
      <span v-else class="sub"><StateDot is="on" words="works" class="small" /></span>
    </template>
    <template #whatFollowingItBrings="{ row }">
      <span v-for="act in row.does" :key="act" class="small sub">{{ act }}</span>
      <span v-for="act in row.doesThere" :key="act" class="small sub">{{ act }} <span class="second">(one email)</span></span>
      <span v-if="row.rules" class="small sub">{{ row.rules === 1 ? 'starts a house rule' : `starts ${row.rules} house rules` }}</span>
      <span v-if="!row.does.length && !row.doesThere.length && !row.rules" class="second small">no actions</span>
      <span v-if="row.asks && row.does.length" class="second small sub">after a second click</span>
    </template>
    <template #emails="{ row }">{{ sayNumber(row.emails) }}</template>
    <template #people="{ row }"><PeopleNumber :people="row.people" :query="{ where: followed(row.id) }" /></template>
    <template #clicks="{ row }">{{ sayNumber(row.clicks) }}</template>
    <template #machines="{ row }"><span class="second">{{ sayNumber(row.machines) }}</span></template>
    <template #last="{ row }">{{ row.lastAt ? sayDay(row.lastAt, zone) : '' }}</template>
  </ListPage>
</template>

<style scoped>
.sub { display: block; max-width: 420px; }
.wrong { color: var(--p-porch-brick); }
</style>
