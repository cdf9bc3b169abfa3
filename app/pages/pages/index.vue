<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { PAGE_TEMPLATES } from '#core/page/templates/pages'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMaking } from '~/composables/useMaking'
import { saySome } from '~/words/say'
import NameDialog from '~/components/NameDialog.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ListPage from '~/components/ListPage.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

const { data: pages, problem } = useFresh(() => api('GET /pages'))
const { makePage } = useMaking()
const making = ref(false)
const beginning = ref<string | number | null>(null)
const beginnings = computed(() => [
  { value: null, name: 'An empty page', says: 'A headline, a text, a form.' },
  ...PAGE_TEMPLATES.map(({ key, name, says }) => ({ value: key, name, says: `${says} Finished, to be made your own.` })),
  ...(pages.value ?? []).map(({ id, name }) => ({
    value: id, name: `A copy of ${name}`, says: 'Everything of it, under an address of its own.',
  })),
])
const standing = computed(() => {
  if (!pages.value) return ''
  const published = pages.value.filter(page => page.status === 'published').length
  const optIns = pages.value.reduce((sum, page) => sum + page.optIns, 0)
  return pages.value.length === 0 ? 'Where strangers arrive.' : `${published} published, ${saySome(optIns, 'opt-in', 'opt-ins')} so far.`
})

const COLUMNS: PlainColumn[] = [
  { key: 'page', head: 'Page' }, { key: 'address', head: 'Address' }, { key: 'status', head: 'Status' },
  { key: 'optIns', head: 'Opt-ins', class: 'number' },
]
</script>

<template>
  <ListPage
    title="Opt-in pages" :standing="standing" kind="page" :rows="pages" :problem="problem" :columns="COLUMNS" to="/pages"
    :find="{ by: ({ name, slug }) => [name, slug], words: 'a name or address' }">
    <template #actions>
      <NuxtLink to="/pages/sources" class="where">Where people come from</NuxtLink>
      <Button label="New opt-in page" @click="making = true" />
    </template>
    <template #none>
      <h2>Make the first page</h2>
      <p class="second">A headline, a few sentences, a form. For example: “The sheet kit. Twelve sheets to print and fold, sent at once.” People who opt in join a list and get a tag, and a tag can start a course.</p>
    </template>
    <template #page="{ row }"><NuxtLink :to="`/pages/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink></template>
    <template #address="{ row }">
      <a v-if="row.status === 'published'" :href="row.url" target="_blank" rel="noopener" class="mono" @click.stop>/p/{{ row.slug }}</a>
      <span v-else class="mono second">/p/{{ row.slug }}</span>
    </template>
    <template #status="{ row }">
      <span class="chip" :class="{ spruce: row.status === 'published' }">
        {{ row.status === 'published' ? `published, version ${row.versionNumber}` : 'draft' }}
      </span>
      <span v-if="row.hasChanges" class="second small"> changes not published</span>
    </template>
    <template #optIns="{ row }"><PeopleNumber :people="row.optIns" :query="{ optin: row.id }" /></template>
    <NameDialog
      v-model:visible="making" title="New opt-in page" label="Name, for you only; visitors do not see it" example="Sheet kit"
      action="Make the page" width="620px" :make="name => makePage(name, beginning)">
      <fieldset>
        <legend class="small second">It begins as</legend>
        <label v-for="one in beginnings" :key="String(one.value)" class="beginning" :class="{ on: beginning === one.value }">
          <input v-model="beginning" type="radio" name="beginning" :value="one.value" />
          <span><strong>{{ one.name }}</strong><span class="second small">{{ one.says }}</span></span>
        </label>
      </fieldset>
    </NameDialog>
  </ListPage>
</template>

<style scoped>
.where { font-weight: 600; align-self: center; }
fieldset { border: 0; margin: 0; padding: 0; display: grid; grid-template-columns: 1fr 1fr; gap: 8px; max-height: 320px; overflow: auto; }
legend { padding: 0 0 4px; }
.beginning {
  display: flex; align-items: flex-start; gap: 8px; padding: 9px 10px; border: 1.5px solid var(--p-porch-line); border-radius: 6px;
  cursor: pointer;
}
.beginning.on { border-color: var(--p-porch-door); background: var(--p-porch-rail); }
.beginning:focus-within { outline: 2px solid var(--p-porch-focus); }
.beginning input { margin: 4px 0 0; accent-color: var(--p-porch-door); }
.beginning > span { display: grid; align-content: start; }
</style>
