<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import NewPage from '~/components/page/NewPage.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ListPage from '~/components/ListPage.vue'
import WeeksPanel from '~/components/WeeksPanel.vue'
import StateDot from '~/components/StateDot.vue'
import type { PageLine } from '#core/views/pages'
import type { PlainColumn } from '~/components/PlainTable.vue'

const { data: pages, problem } = useFresh(() => api('GET /pages'))
const making = ref(false)
const standing = computed(() => {
  if (!pages.value) return ''
  const published = pages.value.filter(page => page.status === 'published').length
  const optIns = pages.value.reduce((sum, page) => sum + page.optIns, 0)
  return pages.value.length === 0
    ? 'Public pages where people sign up.'
    : `${published} published, ${saySome(optIns, 'opt-in', 'opt-ins')} so far.`
})

const COLUMNS: PlainColumn[] = [
  { key: 'page', head: 'Page' }, { key: 'address', head: 'Address' }, { key: 'status', head: 'Status' },
  { key: 'weeks', head: 'Opt-ins a week' },
  { key: 'optIns', head: 'Opt-ins', class: 'number' },
]
const STATES = [
  { name: 'Published', is: (page: PageLine) => page.status === 'published' },
  { name: 'With changes', is: (page: PageLine) => page.hasChanges }, { name: 'Drafts', is: (page: PageLine) => page.status === 'draft' },
]
const ORDERS = [
  { name: 'Most opt-ins first', compare: (a: PageLine, b: PageLine) => b.optIns - a.optIns },
  { name: 'By name', compare: (a: PageLine, b: PageLine) => a.name.localeCompare(b.name) },
]
</script>

<template>
  <ListPage
    title="Opt-in pages" how="opt-in-page" :standing="standing" kind="page" :rows="pages" :problem="problem" :columns="COLUMNS" to="/pages"
    :weekly="{ kind: 'page', words: 'People who opted in' }" :states="STATES" :orders="ORDERS"
    :find="{ by: ({ name, slug }) => [name, slug], words: 'names and addresses' }">
    <template #actions>
      <NuxtLink to="/pages/sources" class="where">Sources</NuxtLink>
      <Button id="new-page" data-opens label="New opt-in page" @click="making = true" />
    </template>
    <template #none>
      <h2>Make the first page</h2>
      <p class="second">A headline, a few sentences, a form. For example: “The sheet kit. Twelve sheets to print and fold, sent at once.”
        People who opt in join a list and get a tag, which can start a course.</p>
    </template>
    <template #page="{ row }"><NuxtLink :to="`/pages/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink></template>
    <template #address="{ row }">
      <a v-if="row.status === 'published'" :href="row.url" target="_blank" rel="noopener" class="mono" @click.stop>/p/{{ row.slug }}</a>
      <span v-else class="mono second">/p/{{ row.slug }}</span>
    </template>
    <template #status="{ row }">
      <StateDot :is="row.status === 'published' ? 'on' : 'off'" :words="row.status" />
      <span v-if="row.hasChanges" class="second small sub">changes not published</span>
    </template>
    <template #optIns="{ row }"><PeopleNumber :people="row.optIns" :query="{ optin: row.id }" /></template>
    <template #after>
      <WeeksPanel title="Visits and opt-ins by week" :series="[{ kind: 'visit', name: 'visits' }, { kind: 'page', name: 'opt-ins' }]" />
    </template>
    <NewPage v-if="making" v-model:visible="making" />
  </ListPage>
</template>

<style scoped>
.sub { display: block; }
.where { font-weight: 600; align-self: center; }
</style>
