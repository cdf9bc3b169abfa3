<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import type { CourseDraft, DraftEmail, DraftStep } from '#core/sequence/draft'
import { hoursOf } from '#core/sequence/standing'
import { dateFieldsOf } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import { api, hrefOf } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useCourseSteps } from '~/composables/useCourseSteps'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { provideRuleParts } from '~/composables/useParts'
import { useSampleJoiner } from '~/composables/useSampleJoiner'
import { sayStep, sayWay } from '~/courses/steps'
import { ruleNamesFrom } from '~/rules/choices'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import AboutCourse from '~/components/course/AboutCourse.vue'
import CourseHead from '~/components/course/CourseHead.vue'
import CourseLadder from '~/components/course/CourseLadder.vue'
import JoinerBar from '~/components/course/JoinerBar.vue'
import PartTabs from '~/components/PartTabs.vue'
import SaveNote from '~/components/SaveNote.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const EntriesPanel = whenNeeded(() => import('~/components/course/EntriesPanel.vue'))
const NumbersPanel = whenNeeded(() => import('~/components/course/NumbersPanel.vue'))
const WhoPanel = whenNeeded(() => import('~/components/course/WhoPanel.vue'))
const PublishDialog = whenNeeded(() => import('~/components/course/PublishDialog.vue'))
const KeptRehearsals = whenNeeded(() => import('~/components/course/KeptRehearsals.vue'))
const RehearsalPanel = whenNeeded(() => import('~/components/course/RehearsalPanel.vue'))
const StandingPanel = whenNeeded(() => import('~/components/course/StandingPanel.vue'))
const SeveralEmails = whenNeeded(() => import('~/components/course/SeveralEmails.vue'))
const StartDialog = whenNeeded(() => import('~/components/course/StartDialog.vue'))
const OtherStepPanel = whenNeeded(() => import('~/components/course/OtherStepPanel.vue'))
const CourseEmail = whenNeeded(() => import('~/components/course/CourseEmail.vue'))
const StepPanel = whenNeeded(() => import('~/components/course/StepPanel.vue'))
const RulesBeside = whenNeeded(() => import('~/components/rule/RulesBeside.vue'))

const id = Number(useRoute().params.id)
const frame = useFrame()
const toast = useToast()
const { lists, tags, make } = useMarks()

const typed = ref<{ name: string, draft: CourseDraft } | null>(null)
const { data: course, problem: notThere, load } = useFresh(() => api('GET /courses/:id', { at: { id } }))
watch(course, (first) => {
  if (first === null || typed.value) return
  typed.value = { name: first.name, draft: first.draft }
  saving.revision.value = first.revision
})
const saving = useDraft(typed, async (value, ifMatch) => {
  const saved = await api('PUT /courses/:id', { at: { id }, body: value, ifMatch })
  course.value = saved
  return saved.revision
})
const { state, problem, flush } = saving

/* The sample joiner */

const draft = () => typed.value?.draft
const { zone, joiner, joinedAt, dates, ways: chosenWays, take } = useSampleJoiner(draft, course)

/** When its emails may leave: in its own half-hours, and only in the workspace's. */
const hours = computed(() => course.value && typed.value ? hoursOf(typed.value.draft, course.value) : ALWAYS)
const fieldsUsed = computed(() => {
  const used = typed.value ? dateFieldsOf(typed.value.draft) : []
  return course.value?.dateFields.filter(({ id: fieldId }) => used.includes(fieldId)) ?? []
})
const fieldName = (fieldId: number) => course.value?.dateFields.find(({ id: one }) => one === fieldId)?.name ?? 'a deleted field'

/* The steps */

const { parts, problem: partsProblem } = provideRuleParts()
const names = computed(() => parts.value ? ruleNamesFrom(parts.value, zone.value) : null)
const {
  all, openId, open, removed, numberOf, titleOf, later, earlier, stepPlace, before, after, toggle, add, addSeveral,
  change, moveOpen, arrange, moveInto, copy, remove, putBack,
} = useCourseSteps(draft, names)
const addsSeveral = ref(false)
const numbersOf = (stepId: string) => course.value?.numbers.find(row => row.stepId === stepId)
const asked = ref(false)
const missingOf = (stepId: string | null) =>
  asked.value ? course.value?.outlook.missing.filter(row => row.stepId === stepId).map(row => row.problem) ?? [] : []
const serverSays = computed(() => problem.value?.fields.map(field => field.problem) ?? [])

const known = computed(() => ({
  courseId: id, openId: openId.value, ways: chosenWays.value, date: (stepId: string) => dates.value.get(stepId),
  numbers: numbersOf, fieldName, title: titleOf, problem: (stepId: string) => missingOf(stepId)[0],
  took: (stepId: string, wayId: string) => course.value?.ways.find(way => way.stepId === stepId && way.wayId === wayId)?.people ?? 0,
}))
/* Ways in, starting, publishing */

const wayIn = computed(() => {
  const { dates, wayInTagIds, wayInListIds } = typed.value!.draft
  if (dates) return `by their date: ${fieldName(dates.fieldId)}`
  const said = [
    ...tags.value.filter(({ id: tagId }) => wayInTagIds.includes(tagId)).map(({ name }) => `the tag ${name}`),
    ...lists.value.filter(({ id: listId }) => wayInListIds?.includes(listId)).map(({ name }) => `the list ${name}`),
  ]
  const elsewhere = course.value!.entriesAndExits.in.length
  return said.length > 0
    ? `by ${said.join(' or ')}`
    : elsewhere > 0 ? `by ${elsewhere === 1 ? 'one thing' : `${elsewhere} things`} set elsewhere` : 'choose how people join'
})
const asking = ref(false)
async function ask() {
  asked.value = true
  if (!(await flush())) return
  const now = await api('GET /courses/:id', { at: { id } })
  course.value = now
  if (now.outlook.missing.length === 0) asking.value = true
  else openId.value = now.outlook.missing.find(row => row.stepId !== null)?.stepId ?? null
}
async function done(said: string) {
  asked.value = false
  toast.add({ severity: 'success', summary: said, life: 5000 })
  await reload()
}
const undo = useUndo()
async function started(said: string) {
  asked.value = false
  undo.did({
    said, undo: () => api('POST /courses/:id/stop', { at: { id } }),
    except: 'The course is stopped. People who have joined keep their place, and what was sent stays sent.',
  })
  await reload()
}
/** What is written was changed on the server, after what is typed here was saved. */
async function afresh() {
  await load()
  saving.revision.value = course.value!.revision
  typed.value = { name: course.value!.name, draft: course.value!.draft }
}

async function reload() {
  await load()
  await frame.changed()
}
const PARTS = [
  { value: 'steps', name: 'Steps' }, { value: 'entries', name: 'Ways in and out' }, { value: 'rehearsal', name: 'Rehearsal' },
  { value: 'numbers', name: 'Results' }, { value: 'people', name: 'People inside' },
]
const { values, set } = useAddress({ part: 'steps', email: '' })
/** The email that is written over the whole screen. */
const writing = computed(() => all.value.find((step): step is DraftEmail => step.kind === 'email' && step.id === values.value.email))
/** Back from it one is where one was: at when it goes. */
function write(stepId: string | null) {
  openId.value = stepId === null ? writing.value?.id ?? null : null
  void set({ email: stepId ?? '' })
}
const whoOf = ref<{ stepId: string, wayId: string } | null>(null)
function wayWords({ stepId, wayId }: { stepId: string, wayId: string }): string {
  const step = all.value.find(one => one.id === stepId)
  return step && names.value ? `Took this path: ${sayWay(step, wayId, names.value)}` : 'Took this path'
}
function fixExample() {
  void set({ part: 'steps', email: course.value!.examples[0]!.stepId })
}
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="course && typed">
    <CourseEmail
      v-if="writing" :course-id="id" :course-name="typed.name" :step="writing" :emails="all.filter(step => step.kind === 'email')"
      :dates="dates" :joined-at="joinedAt ?? 0" :list-id="typed.draft.listId" :tags="tags" :waiting="numbersOf(writing.id)?.waiting ?? 0"
      @change="content => change({ ...writing!, content })" @go="write" @when="openId = writing!.id">
      <template #saved>
        <template v-if="course.status === 'running' && course.hasChanges">Readers still get the published version.{{ ' ' }}</template>
        <SaveNote :draft="saving" :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
      </template>
      <template #actions>
        <Button v-if="course.status === 'draft'" label="Start the course" @click="ask" />
        <Button v-else-if="course.hasChanges" label="Publish the changes" @click="ask" />
      </template>
    </CourseEmail>
    <template v-else>
      <CourseHead
        :course="course" :name="typed.name" :zone="zone" :problems="[...missingOf(null), ...serverSays]" :reload="reload" :flush="flush"
        @ask="ask" @add-email="add('email')" @fix-example="fixExample">
        <template #saved>
          <SaveNote :draft="saving" :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
        </template>
      </CourseHead>
      <ProblemNote :of="partsProblem" />
      <p v-if="removed" class="note">“{{ names ? sayStep(removed.step, names, titleOf) : 'A step' }}” was removed.
        <button type="button" class="link-button" @click="putBack">Undo</button></p>

      <PartTabs
        :parts="PARTS" :chosen="values.part" label="Parts of the course" :wanting="part => part === 'entries' && missingOf(null).length > 0"
        @choose="part => set({ part })" />

      <EntriesPanel
        v-if="values.part === 'entries' && parts" v-model="typed.draft" :course="course" :zone="zone" :lists="lists" :tags="tags"
        :make="make" :steps="all.map(step => ({ id: step.id, name: titleOf(step.id) }))" :flush="flush" @changed="reload"
        @afresh="afresh" />
      <RehearsalPanel
        v-else-if="values.part === 'rehearsal' && parts" :course="course" :zone="zone" :revision="saving.revision.value" :title="titleOf"
        :flush="flush" />
      <NumbersPanel v-else-if="values.part === 'numbers'" :course="course" :zone="zone" />
      <StandingPanel v-else-if="values.part === 'people'" :course="course" :zone="zone" :title="titleOf" @changed="reload" />
      <template v-else>
        <AboutCourse
          v-model="typed" :course="course" :lists="lists" :way-in="wayIn" :hours="hours" :asked="asked" :problem="problem"
          @entries="set({ part: 'entries' })" />

        <JoinerBar v-model="joiner" :course-id="id" :workspace-zone="zone" :any-own-zone="all.some(step => step.zone === 'subscriber')"
                   :fields="fieldsUsed" />

        <CourseLadder
          v-model="typed.draft.steps" :known="known" :names="names" :number-of="numberOf" :date-fields="course.dateFields"
          :entry-date-id="typed.draft.dates?.fieldId ?? null" :joined-at="joinedAt ?? 0" :today="joiner.date" :zone="zone"
          @open="toggle" @add="add" @add-several="addsSeveral = true" @take="take" @arrange="arrange"
          @who="(stepId, wayId) => whoOf = { stepId, wayId }" />
        <p class="second small along">Export: <a :href="hrefOf('GET /courses/:id/export', { at: { id }, query: { as: 'json' } })">as
          JSON</a> or <a :href="hrefOf('GET /courses/:id/export', { at: { id }, query: { as: 'folder' } })">as a folder of Markdown
          files</a>. You can import it again under Courses, here or elsewhere.</p>
        <RulesBeside kind="course" :id="id" class="beside" />
      </template>
    </template>

    <WhoPanel v-if="whoOf" :course-id="id" :asked="{ way: whoOf }" :words="wayWords(whoOf)" :zone="zone" @close="whoOf = null" />
    <StepPanel
      v-if="open?.kind === 'email' && stepPlace" :model-value="open" :number="numberOf(open.id)" :is-first="all[0]?.id === open.id"
      :place="stepPlace"
      :date="dates.get(open.id)" :list-id="typed.draft.listId" :later="later" :earlier="earlier"
      :problems="missingOf(open.id)"
      :date-fields="course.dateFields" :entry-date-id="typed.draft.dates?.fieldId ?? null" :hours="hours" :today="joiner.date"
      :sells="course.sells.find(({ stepId }) => stepId === openId)?.offers ?? []"
      :before="before" :after="after" @go="stepId => openId = stepId" @write="write(open.id)"
      @close="openId = null" @update:model-value="change" @move="moveOpen" @into="moveInto" @remove="remove" @copy="copy"
    />
    <OtherStepPanel
      v-else-if="open && stepPlace && parts" :key="open.id" :model-value="(open as Exclude<DraftStep, DraftEmail>)"
      :title="titleOf(open.id)" :is-first="all[0]?.id === open.id" :place="stepPlace"
      :date="dates.get(open.id)" :date-fields="course.dateFields" :entry-date-id="typed.draft.dates?.fieldId ?? null" :today="joiner.date"
      :problem="missingOf(open.id)[0]"
      :emails="all.filter(step => step.kind === 'email').map(step => ({ id: step.id, name: `in “${titleOf(step.id)}”` }))"
      :others="all.filter(step => step.id !== openId).map(step => ({ id: step.id, name: titleOf(step.id) }))"
      @close="openId = null" @update:model-value="change" @move="moveOpen" @into="moveInto" @remove="remove" @copy="copy"
    />
    <SeveralEmails v-if="addsSeveral" v-model:visible="addsSeveral" :first="typed.draft.steps.length === 0" @add="addSeveral" />
    <StartDialog
      v-if="asking && course.status === 'draft'" v-model:visible="asking" :course="course" :revision="saving.revision.value"
      :title="titleOf" :flush="flush" @done="started" @afresh="afresh" />
    <PublishDialog
      v-else-if="asking" v-model:visible="asking" :course="course" :zone="zone" :revision="saving.revision.value" :title="titleOf"
      :say="step => names ? sayStep(step, names, titleOf) : ''" @done="done">
      <KeptRehearsals :course-id="id" :zone="zone" :revision="saving.revision.value" brief /></PublishDialog>
  </div>
</template>

<style scoped>
.note { margin-bottom: 12px; }
.beside { margin-top: 16px; }
.along { padding: 12px 0 0 150px; }
@media (max-width: 760px) { .along { padding-left: 0; } }
</style>
