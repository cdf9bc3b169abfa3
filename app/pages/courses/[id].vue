<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { VueDraggable } from 'vue-draggable-plus'
import type { CourseDraft, DraftEmail, DraftStep } from '#core/sequence/draft'
import { hoursOf } from '#core/sequence/standing'
import { dateFieldsOf } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import { sayMoment } from '#core/time/say'
import { api, hrefOf } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useAttempt } from '~/composables/useAttempt'
import { useCourseSteps } from '~/composables/useCourseSteps'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { provideRuleParts } from '~/composables/useParts'
import { useSampleJoiner } from '~/composables/useSampleJoiner'
import { sayStep, sayWay } from '~/courses/steps'
import { ruleNamesFrom } from '~/rules/choices'
import { sayPeople, saySome } from '#core/stats/say'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import AboutCourse from '~/components/course/AboutCourse.vue'
import JoinerBar from '~/components/course/JoinerBar.vue'
import AddStep from '~/components/course/AddStep.vue'
import StepBlock, { type Ladder } from '~/components/course/StepBlock.vue'
import StepSide from '~/components/course/StepSide.vue'
import StepLine from '~/components/course/StepLine.vue'
import StepRow from '~/components/course/StepRow.vue'
import PartTabs from '~/components/PartTabs.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
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
/** Subjects and times are written in the ladder itself. */
const quick = ref(false)
const numbersOf = (stepId: string) => course.value?.numbers.find(row => row.stepId === stepId)
const asked = ref(false)
const missingOf = (stepId: string | null) =>
  asked.value ? course.value?.outlook.missing.filter(row => row.stepId === stepId).map(row => row.problem) ?? [] : []
const serverSays = computed(() => problem.value?.fields.map(field => field.problem) ?? [])

const ladder = computed<Ladder | null>(() => names.value && {
  courseId: id, names: names.value, openId: openId.value, ways: chosenWays.value, date: stepId => dates.value.get(stepId),
  numbers: numbersOf, fieldName, title: titleOf, problem: stepId => missingOf(stepId)[0],
  took: (stepId, wayId) => course.value?.ways.find(way => way.stepId === stepId && way.wayId === wayId)?.people ?? 0,
})
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
/* Stopping it as a whole, and deleting it */

const { busy: turning, problem: stopProblem, attempt } = useAttempt()
const confirmation = useConfirm()
const ending = useEnding()
const undo = useUndo()
const stopOrResume = (how: 'stop' | 'go-on') => attempt(async () => {
  await api(`POST /courses/:id/${how}`, { at: { id } })
  await reload()
  undo.did(how === 'stop'
    ? { said: 'The course is stopped.', undo: () => api('POST /courses/:id/go-on', { at: { id } }) }
    : {
      said: 'The course goes on.', undo: () => api('POST /courses/:id/stop', { at: { id } }), except: 'What was sent meanwhile stays sent.',
    })
})
const goOn = () => stopOrResume('go-on')
const stop = () => confirmation.require({
  header: `Stop ${typed.value!.name}?`,
  message: `No emails go out and nobody joins until you resume. ${sayPeople(course.value!.counts.inside)} inside keep their place, and waiting times are paused.`,
  acceptLabel: 'Stop the course', rejectLabel: 'Keep it running', accept: () => void stopOrResume('stop'),
})
const deleteIt = () => ending.ask({
  thing: { kind: 'course', id }, header: `Delete ${typed.value!.name}?`, acceptLabel: 'Delete the course',
  message: course.value!.counts.inside > 0
    ? `${sayPeople(course.value!.counts.inside)} inside will leave it and get no more of its emails. Sent emails stay in the histories.`
    : 'Nobody is inside. Sent emails stay in the histories.',
  accept: async () => {
    await flush()
    await api('DELETE /courses/:id', { at: { id } })
    await frame.changed()
    await navigateTo('/courses')
  },
})
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="course && typed">
    <CourseEmail
      v-if="writing" :course-id="id" :course-name="typed.name" :step="writing" :emails="all.filter(step => step.kind === 'email')"
      :dates="dates" :joined-at="joinedAt ?? 0" :list-id="typed.draft.listId" :tags="tags" :waiting="numbersOf(writing.id)?.waiting ?? 0"
      @change="content => change({ ...writing!, content })" @go="write" @when="openId = writing!.id">
      <template #saved>
        <SaveNote :draft="saving" :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
        <template v-if="course.status === 'running' && course.hasChanges"> Readers still get the published version.</template>
      </template>
      <template #actions>
        <Button v-if="course.status === 'draft'" label="Start the course" @click="ask" />
        <Button v-else-if="course.hasChanges" label="Publish the changes" @click="ask" />
      </template>
    </CourseEmail>
    <template v-else>
      <PageHead :title="typed.name" :back="{ to: '/courses', name: 'Courses' }">
        <template v-if="course.status === 'running'">Email course, {{ course.stoppedAt === null ? 'running' : 'stopped' }}. <PeopleNumber
          :people="course.counts.inside" :query="{ course: id, is: 'inside' }" :words="sayPeople(course.counts.inside)" /> inside,
          <PeopleNumber :people="course.counts.started" :query="{ course: id, is: 'started' }" /> started, <PeopleNumber
            :people="course.counts.finished" :query="{ course: id, is: 'finished' }" /> finished, <PeopleNumber
            :people="course.counts.left" :query="{ course: id, is: 'left' }" /> left.</template>
        <template v-else>Email course, not started: nothing is sent yet.</template>
        {{ ' ' }}<SaveNote :draft="saving" :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
        <template #actions>
          <ThingActions kind="course" :id="id" :to="one => `/courses/${one}`" />
          <Button severity="secondary" icon="pi pi-trash" aria-label="Delete this course" title="Delete this course" @click="deleteIt" />
          <Button
            v-if="course.status === 'running' && course.stoppedAt === null" label="Stop the course" severity="secondary" @click="stop" />
          <Button label="Add an email" severity="secondary" @click="add('email')" />
          <Button v-if="course.status === 'draft'" id="start" data-opens label="Start the course" @click="ask" />
          <Button v-else-if="course.hasChanges" id="publish" data-opens label="Publish the changes" @click="ask" />
        </template>
      </PageHead>

      <ProblemNote :of="partsProblem" />
      <p v-for="text in [...missingOf(null), ...serverSays]" :key="text" class="note brick" role="alert">{{ text }}</p>
      <div v-if="course.stoppedAt !== null" class="note stopped">
        <p>
          Stopped since {{ sayMoment(course.stoppedAt, zone) }}. No emails go out, and waiting times are paused.
          <template v-if="course.waitingToEnter > 0">{{ sayPeople(course.waitingToEnter) }} tried to join since then and will join when you
            resume.</template>
        </p>
        <Button id="resume" label="Resume the course" size="small" :loading="turning" @click="goOn" />
      </div>
      <ProblemNote :of="stopProblem" />
      <p
        v-if="course.status === 'running' && course.hasChanges" class="note">There are changes that readers don’t get yet. They get the
        published version until you publish.</p>
      <div v-if="course.examples.length" class="note lamp stopped">
        <p>{{ saySome(course.examples.length, 'email has', 'emails have') }} links to example addresses, such as
          <span class="mono">{{ course.examples[0]!.urls[0] }}</span>. Readers who click would find nothing.</p>
        <Button label="Fix the first one" size="small" severity="secondary" @click="fixExample" />
      </div>
      <p v-if="removed" class="note">“{{ names ? sayStep(removed.step, names, titleOf) : 'A step' }}” was removed.
        <button type="button" class="link-button" @click="putBack">Undo</button></p>

      <PartTabs
        :parts="PARTS" :chosen="values.part" label="Parts of the course" :wanting="part => part === 'entries' && missingOf(null).length > 0"
        @choose="part => set({ part })" />

      <EntriesPanel
        v-if="values.part === 'entries' && parts" v-model="typed.draft" :course="course" :zone="zone" :lists="lists" :tags="tags"
        :make="make"
        :steps="all.map(step => ({ id: step.id, name: titleOf(step.id) }))" :flush="flush" @changed="reload" @afresh="afresh"
      />
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

        <p v-if="all.some(step => step.kind === 'email')" class="quick">
          <button type="button" class="link-button" :aria-pressed="quick" @click="quick = !quick">
            <i class="pi small" :class="quick ? 'pi-check' : 'pi-pencil'" aria-hidden="true" />
            {{ quick ? 'Done' : 'Edit subjects and times in place' }}</button></p>
        <div class="ladder">
          <div v-if="!quick" class="titles small second" aria-hidden="true">
            <span class="right">When</span>
            <span />
            <span>What they get</span>
            <span class="right">Waiting</span>
            <span class="right">Sent</span>
            <span class="right">Reader opens</span>
            <span class="right">Clicked</span>
            <span class="right">Left</span>
          </div>
          <VueDraggable
            v-model="typed.draft.steps" tag="ol" class="steps" group="steps" handle=".grip" :animation="120"
            :clone="(one: DraftStep) => one">
            <!-- One element for each step: what is dragged out of the row must be all of it. -->
            <li v-for="step in typed.draft.steps" :key="step.id" class="item">
              <template v-if="step.kind === 'email' && quick">
                <StepSide :step="step" :date="dates.get(step.id)" :joined-at="joinedAt ?? 0" :workspace-zone="zone" />
                <StepLine
                  :model-value="step" :number="numberOf(step.id)" :is-first="all[0]?.id === step.id" :date-fields="course.dateFields"
                  :entry-date-id="typed.draft.dates?.fieldId ?? null" :today="joiner.date" class="whole" />
              </template>
              <StepRow
                v-else-if="step.kind === 'email'" :step="step" :number="numberOf(step.id)" :date="dates.get(step.id)"
                :joined-at="joinedAt ?? 0"
                :workspace-zone="zone" :field-name="fieldName" :numbers="numbersOf(step.id)" :course-id="id" :open="step.id === openId"
                :problem="missingOf(step.id)[0]" :not-readers-of="step.notIfReadId ? titleOf(step.notIfReadId) : undefined"
                @open="toggle(step.id)"
              />
              <div v-else-if="ladder" class="other">
                <StepSide :step="step" :date="dates.get(step.id)" :joined-at="joinedAt ?? 0" :workspace-zone="zone" />
                <StepBlock
                  :step="step" :ladder="ladder" plain class="whole" @open="toggle" @add="add" @take="take" @arrange="arrange"
                  @who="(stepId, wayId) => whoOf = { stepId, wayId }" />
              </div>
            </li>
          </VueDraggable>
        </div>
        <p v-if="typed.draft.steps.length === 0" class="second">No steps yet.</p>
        <div class="more"><AddStep where="at the end of the course" several @add="kind => add(kind)" @several="addsSeveral = true" /></div>
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
.stopped { display: flex; align-items: center; gap: 16px; justify-content: space-between; }
.ladder {
  display: grid; grid-template-columns: 116px 24px minmax(220px, 1fr) repeat(5, minmax(52px, auto)); gap: 12px 10px; margin: 14px 0 0;
}
.quick { margin: 12px 0 -4px; text-align: right; }
.beside { margin-top: 16px; }
.along { padding: 12px 0 0 150px; }
.steps { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; gap: 12px 10px; margin: 0; padding: 0; list-style: none; }
.item, .other { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; }
.whole { grid-column: 3 / -1; }
.more { padding: 12px 0 0 150px; }
.titles { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; margin-bottom: -6px; }
.right { text-align: right; }
@media (max-width: 760px) {
  .ladder { grid-template-columns: 76px 18px minmax(0, 1fr); column-gap: 6px; }
  .titles { display: none; }
  .along, .more { padding-left: 0; }
}
</style>
