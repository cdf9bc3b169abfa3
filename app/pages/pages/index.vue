<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { PAGE_TEMPLATES } from '#core/page/templates/pages'
import type { PageLine } from '#core/views/pages'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { useMaking } from '~/composables/useMaking'
import { saySome } from '~/words/say'
import NameDialog from '~/components/NameDialog.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const { data: pages, problem } = useFresh(() => api('GET /pages'))
const { shown, away, showsAway } = useShelf('page', () => pages.value)
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
</script>

<template>
  <div>
    <PageHead title="Opt-in pages">
      {{ standing }}
      <template #actions>
        <NuxtLink to="/pages/sources" class="where">Where people come from</NuxtLink>
        <Button label="New opt-in page" @click="making = true" />
      </template>
    </PageHead>
    <ProblemNote :of="problem" />
    <section v-if="pages?.length" class="panel">
      <DataTable :value="shown" data-key="id" @row-click="({ data }) => navigateTo(`/pages/${data.id}`)">
        <Column header="Page">
          <template #body="{ data }: { data: PageLine }">
            <NuxtLink :to="`/pages/${data.id}`"><strong>{{ data.name }}</strong></NuxtLink>
          </template>
        </Column>
        <Column header="Address">
          <template #body="{ data }: { data: PageLine }">
            <a
              v-if="data.status === 'published'" :href="data.url" target="_blank" rel="noopener" class="mono"
              @click.stop>/p/{{ data.slug }}</a>
            <span v-else class="mono second">/p/{{ data.slug }}</span>
          </template>
        </Column>
        <Column header="Status">
          <template #body="{ data }: { data: PageLine }">
            <span class="chip" :class="{ spruce: data.status === 'published' }">
              {{ data.status === 'published' ? `published, version ${data.versionNumber}` : 'draft' }}
            </span>
            <span v-if="data.hasChanges" class="second small"> changes not published</span>
          </template>
        </Column>
        <Column header="Opt-ins" header-class="number" body-class="number">
          <template #body="{ data }: { data: PageLine }"><PeopleNumber :people="data.optIns" :query="{ optin: data.id }" /></template>
        </Column>
      </DataTable>
      <ShelfSwitch v-model="showsAway" :away="away.length" />
    </section>
    <section v-else-if="pages" class="panel panel-body">
      <h2>Make the first page</h2>
      <p class="second">A headline, a few sentences, a form. For example: “The sheet kit. Twelve sheets to print and fold, sent at once.” People who opt in join a list and get a tag, and a tag can start a course.</p>
    </section>
    <NameDialog
      v-model:visible="making" title="New opt-in page" label="What you call it; visitors do not see this" example="Sheet kit"
      action="Make the page" width="620px" :make="name => makePage(name, beginning)">
      <fieldset>
        <legend class="small second">It begins as</legend>
        <label v-for="one in beginnings" :key="String(one.value)" class="beginning" :class="{ on: beginning === one.value }">
          <input v-model="beginning" type="radio" name="beginning" :value="one.value" />
          <span><strong>{{ one.name }}</strong><span class="second small">{{ one.says }}</span></span>
        </label>
      </fieldset>
    </NameDialog>
  </div>
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
