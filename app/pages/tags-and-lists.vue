<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import { ON_NO_LIST } from '#core/audience/segment'
import type { SubscribersCount } from '#core/views/people'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { sayExpiry } from '#core/people/tag'
import { sayDate } from '#core/time/say'
import { LEAVING_WORDS } from '#core/people/leaving'
import type { ListLine, TagLine, Use, WhyTheyLeft } from '#core/views/marks'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { useTask } from '~/composables/useTask'
import { useFrame } from '~/stores/frame'
import { sayNumber, sayPeople, saySome } from '~/look/say'
import MarkDialog, { type Editing } from '~/components/MarkDialog.vue'
import FieldsPanel from '~/components/FieldsPanel.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import TaskNote from '~/components/subscribers/TaskNote.vue'

const frame = useFrame()
const { lists, tags, loaded, problem, load } = useMarks()
const editing = ref<Editing | null>(null)
/** Who can get mail and is on no list at all. */
const { data: counted } = useFresh(() => api<SubscribersCount>(`subscribers/count?${new URLSearchParams({ where: JSON.stringify(ON_NO_LIST) })}`))
const onNoList = computed(() => counted.value?.total ?? 0)
const { data: left } = useFresh(() => api<WhyTheyLeft[]>('leaving'))

const changeList = ({ id, name, publicName, description, offered, alsoOn }: ListLine) => editing.value = { kind: 'list', id, name, publicName, description, offered, alsoOn: alsoOn.map(one => ({ ...one })) }
const changeTag = ({ id, name, note, group, colour, publicName, expiry, follows }: TagLine) => editing.value = { kind: 'tag', id, name, note, group, colour, publicName: publicName ?? null, expiry: { ...expiry }, follows: { ...follows } }
const newTag = () => editing.value = { kind: 'tag', id: null, name: '', note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS }
const groups = computed(() => [...new Set(tags.value.map(tag => tag.group).filter(Boolean))])
const sought = ref('')
const shown = computed(() => tags.value.filter(tag => [tag.name, tag.group, tag.note].some(text => text.toLowerCase().includes(sought.value.trim().toLowerCase()))))
const addressOf = (use: Use) => use.kind === 'rule' ? `/house-rules/${use.id}` : `/${use.kind}s/${use.id}`
const listName = (id: number) => lists.value.find(list => list.id === id)?.name ?? ''
const nameOf = (id: number) => tags.value.find(tag => tag.id === id)?.name ?? ''
const FOLLOWS = [['gives', 'also gives'], ['takes', 'takes away'], ['drops', 'when lost, takes along']] as const
const sayFollows = ({ follows }: TagLine) => FOLLOWS.filter(([key]) => follows[key].length > 0).map(([key, words]) => `${words} ${follows[key].map(nameOf).join(', ')}`)
const { task, follow } = useTask()
watch(() => task.value?.endedAt, () => void load())
async function saved() {
  await Promise.all([load(), frame.loadFrame()])
}
</script>

<template>
  <div>
    <PageHead title="Tags and lists">
      <template v-if="loaded">{{ saySome(lists.length, 'list', 'lists') }}, promises that subscribers see and can leave. {{ saySome(tags.length, 'tag', 'tags') }}, private notes that can start a course.</template>
      <template #actions>
        <Button label="New list" severity="secondary" @click="editing = { kind: 'list', id: null, name: '', publicName: '', description: '', offered: false, alsoOn: [] }" />
        <Button label="New tag" @click="newTag" />
      </template>
    </PageHead>
    <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>
    <TaskNote v-if="task" :task="task" @close="task = null" />

    <div v-if="loaded" class="stack">
      <section class="panel" aria-labelledby="lists">
        <h2 id="lists">Lists</h2>
        <DataTable v-if="lists.length" :value="lists" data-key="id">
          <Column header="List" body-class="whole"><template #body="{ data }: { data: ListLine }"><button type="button" class="link-button name" @click="changeList(data)">{{ data.name }}</button></template></Column>
          <Column header="What subscribers see"><template #body="{ data }: { data: ListLine }">{{ data.publicName }}<span class="second small sub">{{ data.description || 'No description yet.' }}</span><span v-if="data.offered" class="second small sub">offered to everybody on the choices page</span><span v-for="also in data.alsoOn" :key="`${also.listId} ${also.afterCourseId}`" class="second small sub">whoever is on it is on {{ listName(also.listId) }}{{ also.afterCourseId === null ? '' : ', once its course is finished' }}</span></template></Column>
          <Column header="Used by"><template #body="{ data }: { data: ListLine }"><span v-for="use in data.uses" :key="use.how + use.kind + use.id" class="small use">{{ use.how }} <NuxtLink :to="addressOf(use)">{{ use.name }}</NuxtLink></span></template></Column>
          <Column header="People" header-class="number" body-class="number"><template #body="{ data }: { data: ListLine }"><PeopleNumber :people="data.people" :query="{ list: data.id }" /></template></Column>
        </DataTable>
        <p v-if="onNoList" class="row small">
          <PeopleNumber :people="onNoList" :query="{ where: JSON.stringify(ON_NO_LIST) }" :words="sayPeople(onNoList)" /> can get mail and {{ onNoList === 1 ? 'is' : 'are' }} on none of these lists: only what they ask for reaches them.
        </p>
        <p v-if="!lists.length" class="panel-body second">A list says what kind of mail people agree to, in words they see. For example “Letters from the bench: a letter when something is worth telling, twice a month at most.”</p>
      </section>
      <section class="panel" aria-labelledby="tags">
        <div class="panel-head"><h2 id="tags">Tags</h2><InputText v-if="tags.length > 5" v-model="sought" size="small" placeholder="any part of a tag" aria-label="Find a tag" /></div>
        <DataTable v-if="shown.length" :value="shown" data-key="id">
          <Column header="Tag" body-class="whole"><template #body="{ data }: { data: TagLine }"><span v-if="data.colour" class="dot" :style="{ background: data.colour }" aria-hidden="true" /><button type="button" class="link-button name" @click="changeTag(data)">{{ data.name }}</button></template></Column>
          <Column header="Group" body-class="whole"><template #body="{ data }: { data: TagLine }"><span class="second">{{ data.group }}</span></template></Column>
          <Column header="What it means"><template #body="{ data }: { data: TagLine }"><span class="second">{{ data.note }}</span><span v-if="data.publicName" class="second small sub">readers see it as “{{ data.publicName }}”</span><span v-if="data.expiry.kind !== 'never'" class="second small sub">{{ sayExpiry(data.expiry, sayDate) }}</span><span v-for="sentence in sayFollows(data)" :key="sentence" class="second small sub">{{ sentence }}</span></template></Column>
          <Column header="Used by"><template #body="{ data }: { data: TagLine }"><span v-for="use in data.uses" :key="use.how + use.kind + use.id" class="small use">{{ use.how }} <NuxtLink :to="addressOf(use)">{{ use.name }}</NuxtLink></span></template></Column>
          <Column header="People" header-class="number" body-class="number"><template #body="{ data }: { data: TagLine }"><span v-if="data.blanks" class="second small" title="People have what it is filled in to">filled in</span><PeopleNumber v-else :people="data.people" :query="{ tag: data.id }" /></template></Column>
        </DataTable>
        <p v-else-if="tags.length" class="panel-body second">No tag has “{{ sought }}” in it.</p>
        <p v-else class="panel-body second">A tag is a note only you see. For example “took: sheet kit”, given by a page, or “likes: coptic”, given by a link somebody follows.</p>
      </section>
      <section v-if="left && left.length > 0" class="panel" aria-labelledby="why">
        <h2 id="why">Why they left</h2>
        <p v-for="one in left" :key="one.answer" class="row"><strong class="of">{{ sayNumber(one.n) }}</strong> {{ LEAVING_WORDS[one.answer] }}</p>
        <p class="row second small">Asked once after leaving, and answered by who liked to. Only counted: nobody’s name is kept with it.</p>
      </section>
      <FieldsPanel />
    </div>
    <MarkDialog v-model="editing" :groups="groups" :tags="tags" :lists="lists" @saved="saved" @merging="follow" />
  </div>
</template>

<style scoped>
.name { color: var(--p-porch-door); text-align: left; }
:deep(td.whole) { white-space: nowrap; }
.sub, .use { display: block; }
.of { display: inline-block; min-width: 42px; }
.dot { display: inline-block; width: 10px; height: 10px; margin-right: 7px; border-radius: 3px; vertical-align: -1px; }
</style>
