<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import type { Condition } from '#core/audience/condition'
import { sayDay } from '#core/time/say'
import type { LinkLine } from '#core/views/links'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, saySome } from '~/look/say'
import { useFrame } from '~/stores/frame'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'

/** The library of tracked links. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: links, problem } = useFresh(() => api<LinkLine[]>('links'))
const followed = (linkId: number) => JSON.stringify({ kind: 'all', of: [{ kind: 'followed', linkId, within: null, times: 1 }] } satisfies Condition)
const sought = ref('')
const shown = computed(() => (links.value ?? []).filter(link => [link.name, link.url].some(text => text.toLowerCase().includes(sought.value.trim().toLowerCase()))))
const standing = computed(() => {
  const all = links.value ?? []
  const broken = all.filter(link => link.trouble !== null).length
  return all.length === 0 ? 'Named destinations that emails lead to, and that know who followed them.' : `${saySome(all.length, 'destination', 'destinations')}, followed ${sayNumber(all.reduce((sum, { clicks }) => sum + clicks, 0))} times by readers.${broken ? ` ${saySome(broken, 'does not answer', 'do not answer')}.` : ''}`
})
</script>

<template>
  <div>
    <PageHead title="Links">
      {{ standing }}
      <template #actions><Button label="New link" @click="navigateTo('/links/new')" /></template>
    </PageHead>
    <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>
    <section v-if="links?.length" class="panel" aria-label="Links">
      <div v-if="links.length > 5" class="panel-head"><InputText v-model="sought" size="small" placeholder="any part of a name or address" aria-label="Find a link" class="find" /></div>
      <DataTable :value="shown" data-key="id" @row-click="({ data }) => navigateTo(`/links/${data.id}`)">
        <Column header="Link"><template #body="{ data }: { data: LinkLine }"><NuxtLink :to="`/links/${data.id}`"><strong>{{ data.name }}</strong></NuxtLink><span class="second small sub cut">{{ data.url }}</span><span v-if="data.trouble" class="small sub wrong">{{ data.trouble }}</span></template></Column>
        <Column header="What following it brings"><template #body="{ data }: { data: LinkLine }"><span v-for="act in data.does" :key="act" class="small sub">{{ act }}</span><span v-for="act in data.doesThere" :key="act" class="small sub">{{ act }} <span class="second">(one email)</span></span><span v-if="data.rules" class="small sub">{{ data.rules === 1 ? 'wakes a house rule' : `wakes ${data.rules} house rules` }}</span><span v-if="!data.does.length && !data.doesThere.length && !data.rules" class="second small">nothing by itself</span><span v-if="data.asks && data.does.length" class="second small sub">after a second press</span></template></Column>
        <Column header="Emails" header-class="number" body-class="number"><template #body="{ data }: { data: LinkLine }">{{ sayNumber(data.emails) }}</template></Column>
        <Column header="People" header-class="number" body-class="number"><template #body="{ data }: { data: LinkLine }"><PeopleNumber :people="data.people" :query="{ where: followed(data.id) }" /></template></Column>
        <Column header="Clicks" header-class="number" body-class="number"><template #body="{ data }: { data: LinkLine }">{{ sayNumber(data.clicks) }}</template></Column>
        <Column header="Machines" header-class="number" body-class="number"><template #body="{ data }: { data: LinkLine }"><span class="second">{{ sayNumber(data.machines) }}</span></template></Column>
        <Column header="Last" header-class="number" body-class="number"><template #body="{ data }: { data: LinkLine }">{{ data.lastAt ? sayDay(data.lastAt, zone) : '' }}</template></Column>
      </DataTable>
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
