<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ON_NO_LIST } from '#core/audience/segment'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { sayExpiry } from '#core/people/tag'
import { sayDate } from '#core/time/say'
import { LEAVING_WORDS } from '#core/people/leaving'
import type { ListLine, TagLine } from '#core/views/marks'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { useMarks } from '~/composables/useMarks'
import { useTask } from '~/composables/useTask'
import { useFrame } from '~/stores/frame'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import MarkDialog, { type Editing } from '~/components/MarkDialog.vue'
import FieldsPanel from '~/components/FieldsPanel.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import UsedBy from '~/components/UsedBy.vue'
import TaskNote from '~/components/subscribers/TaskNote.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { lists, tags, loaded, problem, load } = useMarks()
const editing = ref<Editing | null>(null)
/** Who can get mail and is on no list at all. */
const onNone = { where: JSON.stringify(ON_NO_LIST) }
const { data: counted } = useFresh(() => api('GET /subscribers/count', { query: onNone }))
const onNoList = computed(() => counted.value?.total ?? 0)
const { data: left } = useFresh(() => api('GET /leaving'))

const changeList = ({ id, name, publicName, description, offered, alsoOn }: ListLine) =>
  editing.value = { kind: 'list', id, name, publicName, description, offered, alsoOn: alsoOn.map(one => ({ ...one })) }
const changeTag = ({ id, name, note, group, colour, publicName, expiry, follows }: TagLine) => editing.value = {
  kind: 'tag', id, name, note, group, colour, publicName: publicName ?? null, expiry: { ...expiry }, follows: { ...follows },
}
const newTag = () => editing.value = {
  kind: 'tag', id: null, name: '', note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS,
}
const groups = computed(() => [...new Set(tags.value.map(tag => tag.group).filter(Boolean))])
const { shown: listsInSight, away: listsAway, showsAway: showsListsAway } = useShelf('list', () => lists.value)
const { shown: tagsInSight, away: tagsAway, showsAway: showsTagsAway } = useShelf('tag', () => tags.value)
const sought = ref('')
const shown = computed(() => tagsInSight.value.filter(tag =>
  [tag.name, tag.group, tag.note].some(text => text.toLowerCase().includes(sought.value.trim().toLowerCase()))))
const listName = (id: number) => lists.value.find(list => list.id === id)?.name ?? ''
const nameOf = (id: number) => tags.value.find(tag => tag.id === id)?.name ?? ''
const FOLLOWS = [['gives', 'also gives'], ['takes', 'removes'], ['drops', 'when lost, also removes']] as const
const sayFollows = ({ follows }: TagLine) =>
  FOLLOWS.filter(([key]) => follows[key].length > 0).map(([key, words]) => `${words} ${follows[key].map(nameOf).join(', ')}`)
const { task, follow } = useTask()
watch(() => task.value?.endedAt, () => void load())
async function saved() {
  await Promise.all([load(), frame.loadFrame()])
}

const COLUMNS: PlainColumn[] = [
  { key: 'list', head: 'List', class: 'whole' },
  { key: 'whatSubscribersSee', head: 'What subscribers see' },
  { key: 'usedBy', head: 'Used by' },
  { key: 'people', head: 'People', class: 'number' },
]
const COLUMNS_2: PlainColumn[] = [
  { key: 'tag', head: 'Tag', class: 'whole' },
  { key: 'group', head: 'Group', class: 'whole' },
  { key: 'whatItMeans', head: 'What it means' },
  { key: 'usedBy', head: 'Used by' },
  { key: 'people', head: 'People', class: 'number' },
]
</script>

<template>
  <div>
    <PageHead title="Tags and lists" how="tags-and-lists">
      <template v-if="loaded">{{ saySome(lists.length, 'list', 'lists') }}, which subscribers see and can leave.
        {{ saySome(tags.length, 'tag', 'tags') }}, private notes that can start a course.</template>
      <template #actions>
        <Button
          id="new-list" data-opens label="New list" severity="secondary"
          @click="editing = { kind: 'list', id: null, name: '', publicName: '', description: '', offered: false, alsoOn: [] }" />
        <Button id="new-tag" data-opens label="New tag" @click="newTag" />
      </template>
    </PageHead>
    <ProblemNote :of="problem" />
    <TaskNote v-if="task" :task="task" @close="task = null" />

    <div v-if="loaded" class="stack">
      <section class="panel" aria-labelledby="lists">
        <h2 id="lists">Lists</h2>
        <PlainTable v-if="listsInSight.length" :rows="listsInSight" :columns="COLUMNS">
          <template #list="{ row }">
            <button :id="`list-${row.id}`" type="button" data-opens class="link-button name" @click="changeList(row)">
              {{ row.name }}</button>
          </template>
          <template #whatSubscribersSee="{ row }">
            {{ row.publicName }}<span class="second small sub">{{ row.description || 'No description yet.' }}</span>
            <span v-if="row.offered" class="second small sub">offered to everyone on the choices page</span>
            <span v-for="also in row.alsoOn" :key="`${also.listId} ${also.afterCourseId}`" class="second small sub">
              people on it are also on {{ listName(also.listId) }}{{ also.afterCourseId === null ? '' : ', once its course is finished' }}
            </span>
          </template>
          <template #usedBy="{ row }"><UsedBy :uses="row.uses" /></template>
          <template #people="{ row }"><PeopleNumber :people="row.people" :query="{ list: row.id }" /></template>
        </PlainTable>
        <ShelfSwitch v-model="showsListsAway" :away="listsAway.length" />
        <p v-if="onNoList" class="row small">
          <PeopleNumber :people="onNoList" :query="onNone" :words="sayPeople(onNoList)" />
          can get mail and {{ onNoList === 1 ? 'is' : 'are' }} on none of these lists. They get only what they ask for.
        </p>
        <p v-if="!lists.length" class="panel-body second">A list says what kind of mail people agree to, in words they see. For example
          “Letters from the bench: a letter when something is worth telling, twice a month at most.”</p>
      </section>
      <section class="panel" aria-labelledby="tags">
        <div class="panel-head">
          <h2 id="tags">Tags</h2>
          <InputText v-if="tags.length > 5" v-model="sought" size="small" placeholder="any part of a tag" aria-label="Find a tag" />
        </div>
        <PlainTable v-if="shown.length" :rows="shown" :columns="COLUMNS_2">
          <template #tag="{ row }">
            <span v-if="row.colour" class="dot" :style="{ background: row.colour }" aria-hidden="true" />
            <button :id="`tag-${row.id}`" type="button" data-opens class="link-button name" @click="changeTag(row)">{{ row.name }}</button>
          </template>
          <template #group="{ row }"><span class="second">{{ row.group }}</span></template>
          <template #whatItMeans="{ row }">
            <span class="second">{{ row.note }}</span>
            <span v-if="row.publicName" class="second small sub">readers see it as “{{ row.publicName }}”</span>
            <span v-if="row.expiry.kind !== 'never'" class="second small sub">{{ sayExpiry(row.expiry, sayDate) }}</span>
            <span v-for="sentence in sayFollows(row)" :key="sentence" class="second small sub">{{ sentence }}</span>
          </template>
          <template #usedBy="{ row }"><UsedBy :uses="row.uses" /></template>
          <template #people="{ row }">
            <span v-if="row.blanks" class="second small" title="People have what it is filled in to">filled in</span>
            <PeopleNumber v-else :people="row.people" :query="{ tag: row.id }" />
          </template>
        </PlainTable>
        <p v-else-if="sought" class="panel-body second">No tag has “{{ sought }}” in it.</p>
        <p v-else-if="!tags.length" class="panel-body second">A tag is a note only you see. For example “took: sheet kit”, added by a
          page, or “likes: coptic”, added when someone clicks a link.</p>
        <ShelfSwitch v-model="showsTagsAway" :away="tagsAway.length" />
      </section>
      <section v-if="left && left.length > 0" class="panel" aria-labelledby="why">
        <h2 id="why">Why they left</h2>
        <p v-for="one in left" :key="one.answer" class="row">
          <strong class="of">{{ sayNumber(one.n) }}</strong> {{ LEAVING_WORDS[one.answer] }}
        </p>
        <p class="row second small">Asked once, after leaving. Answers are optional and counted without names.</p>
      </section>
      <FieldsPanel />
    </div>
    <MarkDialog v-model="editing" :groups="groups" :tags="tags" :lists="lists" @saved="saved" @merging="follow" />
  </div>
</template>

<style scoped>
.name { color: var(--p-porch-door); text-align: left; }
.sub { display: block; }
.of { display: inline-block; min-width: 42px; }
.dot { display: inline-block; width: 10px; height: 10px; margin-right: 7px; border-radius: 3px; vertical-align: -1px; }
</style>
