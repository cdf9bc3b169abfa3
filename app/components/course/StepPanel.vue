<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Checkbox from 'primevue/checkbox'
import type { StepDate } from '#core/sequence/dates'
import type { DraftEmail } from '#core/sequence/draft'
import type { Reaction } from '#core/sequence/program'
import { ALWAYS, isOpen, type WeekHours } from '#core/time/hours'
import { sayMoment, sayZone } from '#core/time/say'
import type { LocalDate } from '#core/time/zone'
import { freshId } from '~/courses/steps'
import MiniEmail from '~/components/email/MiniEmail.vue'
import { LineEditor } from '~/editor/lazy'
import SidePanel from '~/components/SidePanel.vue'
import SelectField from '~/components/SelectField.vue'
import ReactionRow from './ReactionRow.vue'
import SpanField from './SpanField.vue'
import StepFoot, { type StepPlace } from './StepFoot.vue'
import WhenForm from './WhenForm.vue'

/** One email of a course: what it says and when it goes. */
const props = defineProps<{
  number: number
  isFirst: boolean
  place: StepPlace
  date: StepDate | undefined
  listId: number | null
  /** Steps behind it. */
  later: { id: string, name: string }[]
  /** Emails before it. */
  earlier: { id: string, name: string }[]
  problems: string[]
  dateFields: { id: number, name: string }[]
  /** The date by which people come in; null for none. */
  entryDateId: number | null
  hours: WeekHours
  today: LocalDate
  /** Offers that its links lead to. */
  sells: { id: number, name: string }[]
  /** The emails before and after it in reading order, by their ids. */
  before: string | null
  after: string | null
}>()
const step = defineModel<DraftEmail>({ required: true })
const emit = defineEmits<{
  move: [by: -1 | 1], into: [rowKey: string], remove: [], copy: [], close: [], go: [stepId: string], /** On the email itself. */ write: []
}>()

const reactions = computed(() => step.value.reactions ?? [])
function setReactions(next: Reaction[]) {
  if (next.length > 0) step.value.reactions = next
  else delete step.value.reactions
}
const addReaction = () =>
  setReactions([...reactions.value, { id: freshId(), on: 'not-clicked', within: { count: 3, unit: 'days' }, then: [] }])
const useless = computed({
  get: () => step.value.uselessAfter !== undefined,
  set: (on: boolean) => {
    if (on) step.value.uselessAfter = { count: 2, unit: 'days' }
    else delete step.value.uselessAfter
  },
})
const ignoresHours = computed({
  get: () => step.value.ignoresHours === true,
  set: (on: boolean) => {
    if (on) step.value.ignoresHours = true
    else delete step.value.ignoresHours
  },
})
const leavesOut = computed({
  get: () => step.value.notIfReadId !== undefined,
  set: (on: boolean) => {
    if (on) step.value.notIfReadId = props.earlier.at(-1)!.id
    else delete step.value.notIfReadId
  },
})
function pause(on: boolean) {
  if (on) step.value.paused = true
  else delete step.value.paused
}
const sellsNothing = computed({
  get: () => step.value.content.sellsNothing === true,
  set: (on: boolean) => {
    if (on) step.value.content.sellsNothing = true
    else delete step.value.content.sellsNothing
  },
})
const PAST: { value: DraftEmail['ifPast'], name: string }[] = [
  { value: 'at-once', name: 'send it immediately' }, { value: 'skip', name: 'skip it' },
]
const ZONES: { value: DraftEmail['zone'], name: string }[] = [
  { value: 'workspace', name: 'the workspace’s' }, { value: 'subscriber', name: 'the reader’s own, where known' },
]
</script>

<template>
  <SidePanel :label="`Email ${number}`" @close="emit('close')">
    <template #head>
      <div class="head">
        <h2>Email {{ number }}</h2>
        <span class="turn">
          <Button
            icon="pi pi-chevron-up" severity="secondary" size="small" text :disabled="!before" aria-label="The previous email"
            title="The previous email" @click="emit('go', before!)" />
          <Button
            icon="pi pi-chevron-down" severity="secondary" size="small" text :disabled="!after" aria-label="The next email"
            title="The next email" @click="emit('go', after!)" />
        </span>
        <Button label="Write the email" icon="pi pi-pencil" size="small" @click="emit('write')" />
      </div>
    </template>

    <div class="fields">
      <p v-for="text in problems" :key="text" class="note brick" role="alert">{{ text }}</p>
      <div class="field">
        <span class="label">When it goes</span>
        <WhenForm v-model="step.when" :is-first="isFirst" :date-fields="dateFields" :entry-date-id="entryDateId" :today="today" />
        <p class="hint" aria-live="polite">
          <template v-if="date?.plannedAt">For the sample joiner: {{ sayMoment(date.plannedAt, date.zone) }},
            {{ sayZone(date.zone) }}<template
              v-if="date.targetAt !== null && date.targetAt < date.plannedAt && !step.ignoresHours && hours !== ALWAYS">; wanted
              {{ sayMoment(date.targetAt, date.zone) }}<template
                v-if="isOpen(date.targetAt, hours, date.zone)">, which is past</template><template v-else>, outside the sending
                hours</template></template>.</template>
          <template v-else-if="date?.skipped === 'no-date'">People without that date skip this email.</template>
          <template v-else>For the sample joiner this time has already passed, so it is skipped.</template>
        </p>
        <label v-if="hours !== ALWAYS" class="tick"><Checkbox v-model="ignoresHours" binary /> at its time, even outside the sending
          hours</label>
        <p v-if="isFirst && hours !== ALWAYS && step.when.kind === 'at-once' && !ignoresHours" class="second small">People who have just
          asked for it get it at once, at any hour. Anyone added by a rule, an import or by hand waits for the sending hours.</p>
        <div class="watch">
          <Checkbox v-model="useless" binary input-id="useless" />
          <label for="useless">Don’t send it if it would be late by more than<template v-if="!step.uselessAfter"> a time you
            set</template></label>
          <template v-if="step.uselessAfter"><SpanField v-model="step.uselessAfter" label="Useless after" /></template>
        </div>
      </div>
      <div class="fields two">
        <SelectField v-model="step.zone" label="Whose clock decides" :options="ZONES" />
        <SelectField v-model="step.ifPast" label="If that time has already passed" :options="PAST" />
      </div>
      <div class="field">
        <label for="working-title">Working title; readers never see it</label>
        <InputText id="working-title" v-model="step.content.workingTitle" maxlength="120" />
      </div>
      <div class="field"><span class="label">Subject</span><LineEditor v-model="step.content.subject" label="Subject" /></div>
      <div class="field">
        <span class="label">Preview text, shown after the subject in most inboxes</span>
        <LineEditor v-model="step.content.preview" label="Preview text" />
      </div>
      <MiniEmail :content="step.content" :list-id="listId" kind="course" />
      <div v-if="sells.length" class="watch sells">
        <p>It sells <template v-for="(offer, n) in sells" :key="offer.id"><template v-if="n > 0"> and
        </template><NuxtLink :to="`/offers/${offer.id}`">{{ offer.name }}</NuxtLink></template>. People who have
          {{ sells.length > 1 ? 'all of them' : 'it' }} or want no more about it do not get this email.</p>
        <Checkbox v-model="sellsNothing" binary input-id="sells-nothing" /><label for="sells-nothing">Send it to them, too</label>
      </div>
      <div v-if="earlier.length || leavesOut" class="field">
        <div class="watch">
          <Checkbox v-model="leavesOut" binary input-id="leaves-out" />
          <label for="leaves-out">Leave out people who read {{ leavesOut ? 'this earlier email' : 'an earlier email' }}</label>
          <Select
            v-if="leavesOut" v-model="step.notIfReadId" :options="earlier" option-label="name" option-value="id" size="small"
            placeholder="which email" aria-label="The earlier email" />
        </div>
        <p v-if="leavesOut" class="hint">They opened it themselves or clicked in it, and go on to the next step. Opens are uncertain:
          where only a mail program opened it, they still get this one. People who read it are your interested readers.</p>
      </div>
      <div class="field">
        <span class="label">Follow-ups</span>
        <ReactionRow
          v-for="(reaction, n) in reactions" :key="reaction.id" :model-value="reaction" :n="n + 1" :content="step.content" :later="later"
          :sent-again="reactions.some(one => one.again && one.id !== reaction.id)"
          @update:model-value="next => setReactions(reactions.map((one, at) => at === n ? next : one))"
          @remove="setReactions(reactions.filter((_, at) => at !== n))" />
        <p>
          <button type="button" class="link-button" @click="addReaction">
            <i class="pi pi-plus small" aria-hidden="true" />
            {{ reactions.length ? 'and something else' : 'something when it is opened, clicked, or not' }}
          </button>
        </p>
      </div>
      <StepFoot :step="step" :place="place" what="email" @move="by => emit('move', by)" @into="rowKey => emit('into', rowKey)"
                @remove="emit('remove')" @copy="emit('copy')" @pause="pause" />
    </div>

  </SidePanel>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 8px; flex: 1; }
.turn { flex: 1; }
.tick { display: inline-flex; align-items: center; gap: 8px; }
.watch { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
/* It reads as a sentence and its exception. */
.sells p { width: 100%; }
</style>
