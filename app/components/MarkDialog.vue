<script setup lang="ts">
import { computed, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import type { TagExpiry, TagInput } from '#core/people/tag'
import type { AlsoOn } from '#core/rules/shortForms'
import type { ListLine, TagLine } from '#core/views/marks'
import type { TaskView } from '#core/views/tasks'
import { sayZone } from '#core/time/say'
import { addDays, localOf } from '#core/time/zone'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import DateField from './DateField.vue'
import MarkEnding from './MarkEnding.vue'
import SelectField from './SelectField.vue'
import ThingActions from './ThingActions.vue'
import TagFollows from './TagFollows.vue'
import ListFollows from './ListFollows.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const RulesBeside = whenNeeded(() => import('./rule/RulesBeside.vue'))

/** Makes or changes a list or a tag. */
export type Editing = {
  kind: 'list', id: number | null, name: string, publicName: string, description: string, offered: boolean, alsoOn: AlsoOn[],
} | { kind: 'tag', id: number | null } & TagInput

const editing = defineModel<Editing | null>({ required: true })
const props = defineProps<{ groups: string[], tags: TagLine[], lists: ListLine[] }>()
const emit = defineEmits<{ saved: [], merging: [task: TaskView] }>()
const { busy, problem, attempt } = useAttempt()
const undo = useUndo()
/** As it was when it was opened. */
let opened: Editing | null = null
watch(() => editing.value === null, () => {
  problem.value = null
  opened = editing.value && JSON.parse(JSON.stringify(editing.value)) as Editing
}, { immediate: true })

/* Tags only */

const frame = useFrame()
const zone = computed(() => frame.zone)
const EXPIRIES: { value: TagExpiry['kind'], name: string }[] = [
  { value: 'never', name: 'until it is removed' }, { value: 'after', name: 'for a number of days' }, { value: 'on', name: 'until a date' },
]
function setExpiry(kind: TagExpiry['kind']) {
  if (editing.value?.kind !== 'tag') return
  const inAMonth = addDays(localOf(frame.now, zone.value).date, 30)
  editing.value.expiry = kind === 'after' ? { kind, days: 30 } : kind === 'on' ? { kind, date: inAMonth } : { kind }
}
function setPublicName(name: string | undefined) {
  if (editing.value?.kind === 'tag') editing.value.publicName = name || null
}
function setColour(colour: string | null) {
  if (editing.value?.kind === 'tag') editing.value.colour = colour
}

/* Merging and deleting */

const line = computed(() => (editing.value?.kind === 'tag' ? props.tags : props.lists).find(({ id }) => id === editing.value?.id))
const others = computed(() => editing.value?.kind === 'tag'
  ? props.tags.filter(tag => tag.id !== editing.value?.id && !tag.blanks)
  : props.lists.filter(list => list.id !== editing.value?.id))
function ended(task: TaskView | null) {
  editing.value = null
  if (task) emit('merging', task)
  emit('saved')
}

const keepTag = ({ kind: _, id, ...body }: Extract<Editing, { kind: 'tag' }>) =>
  id === null ? api('POST /tags', { body }) : api('PUT /tags/:id', { at: { id }, body })
const keepList = ({ kind: _, id, ...body }: Extract<Editing, { kind: 'list' }>) =>
  id === null ? api('POST /lists', { body }) : api('PUT /lists/:id', { at: { id }, body })
async function save() {
  const mark = editing.value!
  const keep = (one: Editing) => one.kind === 'tag' ? keepTag(one) : keepList(one)
  if (!await attempt(() => keep(mark))) return
  const before = opened
  editing.value = null
  emit('saved')
  if (before && mark.id !== null) undo.did({ said: `The ${mark.kind} “${mark.name}” is saved.`, undo: async () => {
    await keep(before)
    emit('saved')
  } })
}
</script>

<template>
  <Dialog
    v-if="editing" visible modal :header="`${editing.id === null ? 'New' : 'Change the'} ${editing.kind}`" :style="{ width: '500px' }"
    @update:visible="editing = null">
    <form class="fields" @submit.prevent="save">
      <div class="field">
        <label for="mark-name">{{ editing.kind === 'list' ? 'Name (only you see it)' : 'Name' }}</label>
        <InputText id="mark-name" v-model="editing.name" maxlength="80" autofocus :invalid="!!problem?.of('name')" />
        <ProblemNote :of="problem" at="name" />
      </div>
      <template v-if="editing.kind === 'list'">
        <div class="field">
          <label for="mark-public">Name that subscribers see</label>
          <InputText id="mark-public" v-model="editing.publicName" maxlength="80" :placeholder="editing.name" />
        </div>
        <div class="field">
          <label for="mark-description">What subscribers can expect from it</label>
          <Textarea id="mark-description" v-model="editing.description" rows="3" maxlength="300" auto-resize />
        </div>
        <span class="tick">
          <Checkbox v-model="editing.offered" input-id="mark-offered" binary />
          <label for="mark-offered">Offer it on the choices page to readers who never joined it</label>
        </span>
        <ListFollows
          v-model="editing.alsoOn" :list-id="editing.id" :lists="lists"
          :problem="problem?.fields.find(({ field }) => field.startsWith('alsoOn'))?.problem" />
      </template>
      <template v-else>
        <p class="second small hint">May hold [month], filled in when it is added: “joined [month]” becomes “joined November 2026”.</p>
        <div class="field">
          <label for="mark-note">Notes (only you see them)</label>
          <Textarea id="mark-note" v-model="editing.note" rows="2" maxlength="300" auto-resize />
        </div>
        <div class="fields two">
          <div class="field">
            <label for="mark-group">Group</label>
            <InputText id="mark-group" v-model="editing.group" maxlength="40" placeholder="none, or any word" list="tag-groups" />
            <datalist id="tag-groups"><option v-for="group in groups" :key="group" :value="group" /></datalist>
          </div>
          <div class="field">
            <span class="label">Colour</span>
            <span class="colour">
              <Checkbox
                :model-value="editing.colour !== null" binary aria-label="Use a colour"
                @update:model-value="on => setColour(on ? '#20506b' : null)" />
              <input v-if="editing.colour" v-model="editing.colour" type="color" aria-label="Colour" />
              <span v-else class="second">none</span>
            </span>
          </div>
        </div>
        <div class="field">
          <label for="mark-interest">Readers see it as an interest, called</label>
          <InputText
            id="mark-interest" :model-value="editing.publicName ?? ''" maxlength="60" placeholder="leave empty to keep it private"
            :invalid="!!problem?.of('publicName')" @update:model-value="setPublicName" />
          <ProblemNote v-if="problem?.of('publicName')" :of="problem" at="publicName" />
          <p v-else class="hint">Readers can then add and remove it on the choices page that every email links to.</p>
        </div>
        <SelectField
          :model-value="editing.expiry.kind" label="How long it lasts" :options="EXPIRIES" @update:model-value="setExpiry" />
        <div v-if="editing.expiry.kind === 'after'" class="field">
          <label for="mark-days">Days (24 hours) after it is added</label>
          <InputNumber v-model="editing.expiry.days" input-id="mark-days" :min="1" :max="3650" :allow-empty="false" show-buttons />
        </div>
        <div v-else-if="editing.expiry.kind === 'on'" class="field">
          <label for="mark-date">It expires at the start of, {{ sayZone(zone) }}</label>
          <DateField v-model="editing.expiry.date" input-id="mark-date" />
        </div>
        <TagFollows
          v-model="editing.follows" :tag-id="editing.id" :tags="tags"
          :problem="problem?.fields.find(({ field }) => field.startsWith('follows'))?.problem" />
        <ProblemNote :of="problem" at="expiry" class="small" />
        <p v-if="editing.id !== null && editing.expiry.kind !== 'never'" class="second small">This applies to people who get the tag from
          now on. People who have it keep it for as long as it was given.</p>
      </template>
      <ProblemNote :of="problem" general />
      <div class="end">
        <ThingActions v-if="editing.id !== null" :id="editing.id" :kind="editing.kind" @done="ended(null)" />
        <Button type="submit" :label="editing.id === null ? `Make the ${editing.kind}` : `Save the ${editing.kind}`" :loading="busy" />
      </div>
    </form>
    <RulesBeside
      v-if="editing.id !== null" :key="`rules-${editing.kind}-${editing.id}`" :kind="editing.kind" :id="editing.id" :panel="false"
      class="beside" />
    <MarkEnding v-if="line" :key="editing.kind + line.id" :kind="editing.kind" :line="line" :others="others" @ended="ended" />
  </Dialog>
</template>

<style scoped>
.beside { margin-top: 16px; padding-top: 12px; border-top: 1px solid var(--p-porch-line-light); }
.end { display: flex; justify-content: flex-end; gap: 8px; }
p.second.hint { margin-top: -9px; }
.tick { display: inline-flex; align-items: center; gap: 8px; }
.colour { display: flex; align-items: center; gap: 8px; height: 38px; }
.colour input[type='color'] {
  width: 44px; height: 28px; padding: 2px; border: 1px solid var(--p-porch-ink-third); border-radius: 6px; background: var(--p-porch-paper);
  cursor: pointer;
}
</style>
