<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { Condition } from '#core/audience/condition'
import { sayDay } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { sayNumber, saySome } from '~/words/say'
import { useFrame } from '~/stores/frame'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The library of tracked links. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: links, problem } = useFresh(() => api('GET /links'))
const { shown: inSight, away, showsAway } = useShelf('link', () => links.value)
const followed = (linkId: number) =>
  JSON.stringify({ kind: 'all', of: [{ kind: 'followed', linkId, within: null, times: 1 }] } satisfies Condition)
const sought = ref('')
const shown = computed(() =>
  inSight.value.filter(link => [link.name, link.url].some(text => text.toLowerCase().includes(sought.value.trim().toLowerCase()))))
const standing = computed(() => {
  const all = links.value ?? []
  const broken = all.filter(link => link.trouble !== null).length
  return all.length === 0
    ? 'Named destinations that emails lead to, and that know who followed them.'
    : `${saySome(all.length, 'destination', 'destinations')}, followed ${sayNumber(all.reduce((sum, { clicks }) => sum + clicks, 0))} times by readers.${broken ? ` ${saySome(broken, 'does not answer', 'do not answer')}.` : ''}`
})

const COLUMNS: PlainColumn[] = [
  { key: 'link', head: 'Link' },
  { key: 'whatFollowingItBrings', head: 'What following it brings' },
  { key: 'emails', head: 'Emails', class: 'number' },
  { key: 'people', head: 'People', class: 'number' },
  { key: 'clicks', head: 'Clicks', class: 'number' },
  { key: 'machines', head: 'Machines', class: 'number' },
  { key: 'last', head: 'Last', class: 'number' },
]
</script>

<template>
  <div>
    <PageHead title="Links">
      {{ standing }}
      <template #actions><Button label="New link" @click="navigateTo('/links/new')" /></template>
    </PageHead>
    <ProblemNote :of="problem" />
    <section v-if="links?.length" class="panel" aria-label="Links">
      <div v-if="links.length > 5" class="panel-head">
        <InputText v-model="sought" size="small" placeholder="any part of a name or address" aria-label="Find a link" class="find" />
      </div>
      <PlainTable :rows="shown" class="opens" @open="({ id }) => navigateTo(`/links/${id}`)" :columns="COLUMNS">
        <template #link="{ row }">
          <NuxtLink :to="`/links/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink>
          <span class="second small sub cut">{{ row.url }}</span>
          <span v-if="row.trouble" class="small sub wrong">{{ row.trouble }}</span>
        </template>
        <template #whatFollowingItBrings="{ row }">
          <span v-for="act in row.does" :key="act" class="small sub">{{ act }}</span>
          <span v-for="act in row.doesThere" :key="act" class="small sub">{{ act }} <span class="second">(one email)</span></span>
          <span v-if="row.rules" class="small sub">{{ row.rules === 1 ? 'wakes a house rule' : `wakes ${row.rules} house rules` }}</span>
          <span v-if="!row.does.length && !row.doesThere.length && !row.rules" class="second small">nothing by itself</span>
          <span v-if="row.asks && row.does.length" class="second small sub">after a second press</span>
        </template>
        <template #emails="{ row }">{{ sayNumber(row.emails) }}</template>
        <template #people="{ row }"><PeopleNumber :people="row.people" :query="{ where: followed(row.id) }" /></template>
        <template #clicks="{ row }">{{ sayNumber(row.clicks) }}</template>
        <template #machines="{ row }"><span class="second">{{ sayNumber(row.machines) }}</span></template>
        <template #last="{ row }">{{ row.lastAt ? sayDay(row.lastAt, zone) : '' }}</template>
      </PlainTable>
      <ShelfSwitch v-model="showsAway" :away="away.length" />
    </section>
    <section v-else-if="links" class="panel panel-body">
      <h2>Make the first link</h2>
      <p class="second">Every address in an email comes here by itself once the email is published. A link made here first can be chosen while writing, and be given something to do: “coptic” gives the tag “likes: coptic”.</p>
    </section>
  </div>
</template>

<style scoped>
.find { width: 280px; }
.sub { display: block; max-width: 420px; }
.wrong { color: var(--p-porch-brick); }
</style>
