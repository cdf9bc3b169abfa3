<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { VueDraggable } from 'vue-draggable-plus'
import { datesFor } from '#core/sequence/dates'
import { type CourseDraft, type DraftEmail, type DraftStep, programOf } from '#core/sequence/draft'
import { hoursOf } from '#core/sequence/standing'
import { allSteps, dateFieldsOf, waysOf } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import { sayHours, sayMoment } from '#core/time/say'
import { addDays, instantOf, isLocalTime, isZone, localOf } from '#core/time/zone'
import type { CourseView } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useAttempt } from '~/composables/useAttempt'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { provideRuleParts } from '~/composables/useParts'
import { copyOf, newStep, placeIn, sayStep, sayWay } from '~/courses/steps'
import { ruleNamesFrom } from '~/rules/choices'
import { sayPeople } from '~/words/say'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import JoinerBar, { type SampleJoiner } from '~/components/course/JoinerBar.vue'
import EntriesPanel from '~/components/course/EntriesPanel.vue'
import NumbersPanel from '~/components/course/NumbersPanel.vue'
import WhoPanel from '~/components/course/WhoPanel.vue'
import PublishDialog from '~/components/course/PublishDialog.vue'
import KeptRehearsals from '~/components/course/KeptRehearsals.vue'
import RehearsalPanel from '~/components/course/RehearsalPanel.vue'
import StandingPanel from '~/components/course/StandingPanel.vue'
import StartDialog from '~/components/course/StartDialog.vue'
import AddStep from '~/components/course/AddStep.vue'
import OtherStepPanel from '~/components/course/OtherStepPanel.vue'
import StepBlock, { type Ladder } from '~/components/course/StepBlock.vue'
import type { StepPlace } from '~/components/course/StepFoot.vue'
import StepPanel from '~/components/course/StepPanel.vue'
import StepSide from '~/components/course/StepSide.vue'
import StepRow from '~/components/course/StepRow.vue'
import PartTabs from '~/components/PartTabs.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import RulesBeside from '~/components/rule/RulesBeside.vue'
import SaveNote from '~/components/SaveNote.vue'
import SelectField from '~/components/SelectField.vue'
import WeekHours from '~/components/WeekHours.vue'

const id = Number(useRoute().params.id)
const frame = useFrame()
const toast = useToast()
const { lists, tags, make } = useMarks()

const typed = ref<{ name: string, draft: CourseDraft } | null>(null)
const { data: course, problem: notThere, load } = useFresh(() => api<CourseView>(`courses/${id}`))
watch(course, (first) => {
  if (first === null || typed.value) return
  typed.value = { name: first.name, draft: first.draft }
  saving.revision.value = first.revision
})
const saving = useDraft(typed, async (value, ifMatch) => {
  const saved = await api<CourseView>(`courses/${id}`, { method: 'PUT', body: value, ifMatch })
  course.value = saved
  return saved.revision
})
const { state, problem, flush } = saving

/* The sample joiner */

const zone = computed(() => frame.zone)
const chosenJoiner = ref<SampleJoiner | null>(null)
/** Which way the sample joiner takes, where one was chosen, by the id of the step. */
const chosenWays = ref<ReadonlyMap<string, string>>(new Map())
const joiner = computed<SampleJoiner>({
  get: () => chosenJoiner.value ?? { date: addDays(localOf(frame.now, zone.value).date, 1), time: '12:00', zone: zone.value, dates: {} },
  set: value => chosenJoiner.value = value,
})
const joinedAt = computed(() => {
  const { date, time, zone: place } = joiner.value
  try {
    return isLocalTime(time) && isZone(place) ? instantOf(date, time, place) : null
  }
  catch {
    return null // a date still being typed
  }
})
const dates = computed(() => {
  if (!typed.value || joinedAt.value === null) return new Map()
  const { date, dates: known, zone: personZone } = joiner.value
  const rows = datesFor(
    programOf(typed.value.draft, () => 0), joinedAt.value,
    { workspaceZone: zone.value, personZone, hours: course.value!.hours, dateOf: fieldId => known[fieldId] ?? date }, chosenWays.value,
  )
  return new Map(rows.map(row => [row.stepId, row]))
})

/** When its emails may leave: in its own half-hours, and only in the workspace's. */
const hours = computed(() => course.value && typed.value ? hoursOf(typed.value.draft, course.value) : ALWAYS)
const fieldsUsed = computed(() => {
  const used = typed.value ? dateFieldsOf(typed.value.draft) : []
  return course.value?.dateFields.filter(({ id: fieldId }) => used.includes(fieldId)) ?? []
})
const fieldName = (fieldId: number) => course.value?.dateFields.find(({ id: one }) => one === fieldId)?.name ?? 'a field that is gone'
const narrowing = ref(false)

/* The steps */

const { parts, problem: partsProblem } = provideRuleParts()
const openId = ref<string | null>(null)
const all = computed(() => typed.value ? allSteps<DraftStep>(typed.value.draft.steps) : [])
const open = computed(() => all.value.find(step => step.id === openId.value))
const place = computed(() => openId.value === null || !typed.value ? null : placeIn(typed.value.draft.steps, openId.value))
/** Emails are counted through, those in ways too. */
const numberOf = (stepId: string) => all.value.filter(({ kind }) => kind === 'email').findIndex(({ id: one }) => one === stepId) + 1
const numbersOf = (stepId: string) => course.value?.numbers.find(row => row.stepId === stepId)
const asked = ref(false)
const missingOf = (stepId: string | null) =>
  asked.value ? course.value?.outlook.missing.filter(row => row.stepId === stepId).map(row => row.problem) ?? [] : []
const serverSays = computed(() => problem.value?.fields.map(field => field.problem) ?? [])

const names = computed(() => parts.value ? ruleNamesFrom(parts.value, zone.value) : null)
const titleOf = (stepId: string): string => {
  const step = all.value.find(one => one.id === stepId)
  return step && names.value
    ? sayStep(step, names.value, other => all.value.find(one => one.id === other)?.kind === 'email' ? titleOf(other) : 'another step')
    : 'a step that is gone'
}
const ladder = computed<Ladder | null>(() => names.value && {
  courseId: id, names: names.value, openId: openId.value, ways: chosenWays.value, date: stepId => dates.value.get(stepId),
  numbers: numbersOf, fieldName, title: titleOf, problem: stepId => missingOf(stepId)[0],
  took: (stepId, wayId) => course.value?.ways.find(way => way.stepId === stepId && way.wayId === wayId)?.people ?? 0,
})
function toggle(stepId: string) {
  openId.value = openId.value === stepId ? null : stepId
}
function take(stepId: string, wayId: string) {
  chosenWays.value = new Map([...chosenWays.value, [stepId, wayId]])
}
/** The steps of a way, or of the course itself. */
const rowOf = (stepId?: string, wayId?: string): DraftStep[] =>
  stepId ? waysOf(all.value.find(one => one.id === stepId)!).find(way => way.id === wayId)!.steps : typed.value!.draft.steps
/** At the end of a way, or of the course. */
function add(kind: DraftStep['kind'], stepId?: string, wayId?: string) {
  const row = rowOf(stepId, wayId)
  const step = newStep(kind, all.value.length === 0)
  row.push(step)
  openId.value = step.id
}
function change(step: DraftStep) {
  const { row, at } = place.value!
  row[at] = step
}
function moveOpen(by: -1 | 1) {
  const { row, at } = place.value!
  const [step] = row.splice(at, 1)
  row.splice(at + by, 0, step!)
}
function arrange(stepId: string, wayId: string, steps: DraftStep[]) {
  rowOf(stepId, wayId).splice(0, Infinity, ...steps)
}
/** Every row the open step could lie in: not one of its own ways. */
const stepPlace = computed<StepPlace | null>(() => {
  if (!place.value || !open.value || !typed.value) return null
  const own = new Set(allSteps<DraftStep>([open.value]).map(step => step.id))
  const ways = names.value ? all.value.filter(step => !own.has(step.id)).flatMap(step => waysOf(step).map(way => ({
    value: `${step.id}/${way.id}`, name: `“${sayWay(step, way.id, names.value!)}” of: ${titleOf(step.id)}`, steps: way.steps,
  }))) : []
  const { row, at } = place.value
  return {
    at, count: row.length, rowKey: ways.find(({ steps }) => steps === row)?.value ?? '',
    rows: [{ value: '', name: 'the course’s own row' }, ...ways.map(({ value, name }) => ({ value, name }))],
  }
})
/** At the end of another row. */
function moveInto(rowKey: string) {
  const { row, at } = place.value!
  const [step] = row.splice(at, 1)
  rowOf(...rowKey.split('/') as [string?, string?]).push(step!)
}
function copy() {
  const { row, at } = place.value!
  const twin = copyOf(row[at]!)
  row.splice(at + 1, 0, twin)
  openId.value = twin.id
}
const removed = ref<{ step: DraftStep, row: DraftStep[], at: number } | null>(null)
function remove() {
  const { row, at } = place.value!
  removed.value = { step: row[at]!, row, at }
  openId.value = null
  row.splice(at, 1)
}
function putBack() {
  const { step, row, at } = removed.value!
  row.splice(Math.min(at, row.length), 0, step)
  removed.value = null
}

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
    : elsewhere > 0 ? `by ${elsewhere === 1 ? 'one thing' : `${elsewhere} things`} set elsewhere` : 'say how people come in'
})
const asking = ref(false)
async function ask() {
  asked.value = true
  if (!(await flush())) return
  const now = await api<CourseView>(`courses/${id}`)
  course.value = now
  if (now.outlook.missing.length === 0) asking.value = true
  else openId.value = now.outlook.missing.find(row => row.stepId !== null)?.stepId ?? null
}
async function done(said: string) {
  asked.value = false
  toast.add({ severity: 'success', summary: said, life: 5000 })
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
  { value: 'numbers', name: 'What came of it' }, { value: 'people', name: 'Who stands where' },
]
const { values, set } = useAddress({ part: 'steps' })
const whoOf = ref<{ stepId: string, wayId: string } | null>(null)
function wayWords({ stepId, wayId }: { stepId: string, wayId: string }): string {
  const step = all.value.find(one => one.id === stepId)
  return step && names.value ? `Went on by: ${sayWay(step, wayId, names.value)}` : 'Went on by this way'
}
/* Stopping it as a whole, and deleting it */

const { busy: turning, problem: stopProblem, attempt } = useAttempt()
const confirmation = useConfirm()
const ending = useEnding()
const stopOrResume = (how: 'stop' | 'go-on') => attempt(async () => {
  await api(`courses/${id}/${how}`, { method: 'POST' })
  await reload()
  await frame.changed()
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
    await api(`courses/${id}`, { method: 'DELETE' })
    await frame.changed()
    await navigateTo('/courses')
  },
})
const later = computed(() =>
  all.value.slice(all.value.findIndex(step => step.id === openId.value) + 1).map(step => ({ id: step.id, name: titleOf(step.id) })))
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="course && typed">
    <PageHead :title="typed.name" :back="{ to: '/courses', name: 'Courses' }">
      <template v-if="course.status === 'running'">Email course, {{ course.stoppedAt === null ? 'running' : 'stopped' }}. <PeopleNumber :people="course.counts.inside" :query="{ course: id, is: 'inside' }" :words="sayPeople(course.counts.inside)" /> inside, <PeopleNumber :people="course.counts.started" :query="{ course: id, is: 'started' }" /> started, <PeopleNumber :people="course.counts.finished" :query="{ course: id, is: 'finished' }" /> finished, <PeopleNumber :people="course.counts.left" :query="{ course: id, is: 'left' }" /> left.</template>
      <template v-else>Email course, not started: nothing is sent yet.</template>
      {{ ' ' }}<SaveNote :draft="saving" :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
      <template #actions>
        <ThingActions kind="course" :id="id" :to="one => `/courses/${one}`" />
        <Button severity="secondary" icon="pi pi-trash" aria-label="Delete this course" title="Delete this course" @click="deleteIt" />
        <Button
          v-if="course.status === 'running' && course.stoppedAt === null" label="Stop the course" severity="secondary" @click="stop" />
        <Button label="Add an email" severity="secondary" @click="add('email')" />
        <Button v-if="course.status === 'draft'" label="Start the course" @click="ask" />
        <Button v-else-if="course.hasChanges" label="Publish the changes" @click="ask" />
      </template>
    </PageHead>

    <p v-if="partsProblem" class="note brick" role="alert">{{ partsProblem }}</p>
    <p v-for="text in [...missingOf(null), ...serverSays]" :key="text" class="note brick" role="alert">{{ text }}</p>
    <div v-if="course.stoppedAt !== null" class="note stopped">
      <p>
        Stopped since {{ sayMoment(course.stoppedAt, zone) }}. No emails go out, and waiting times are paused.
        <template v-if="course.waitingToEnter > 0">{{ sayPeople(course.waitingToEnter) }} tried to join since then and will join when you resume.</template>
      </p>
      <Button label="Resume the course" size="small" :loading="turning" @click="goOn" />
    </div>
    <p v-if="stopProblem" class="note brick" role="alert">{{ stopProblem.message }}</p>
    <p v-if="course.status === 'running' && course.hasChanges" class="note">
      There are changes that readers do not get yet. They stay with the
      published version until you publish.
    </p>
    <p v-if="removed" class="note">
      “{{ names ? sayStep(removed.step, names, titleOf) : 'A step' }}” was taken out.
      <button type="button" class="link-button" @click="putBack">Put it back</button>
    </p>

    <PartTabs
      :parts="PARTS" :chosen="values.part" label="Parts of the course" :wanting="part => part === 'entries' && missingOf(null).length > 0"
      @choose="part => set({ part })" />

    <EntriesPanel
      v-if="values.part === 'entries' && parts" v-model="typed.draft" :course="course" :zone="zone" :lists="lists" :tags="tags" :make="make"
      :steps="all.map(step => ({ id: step.id, name: titleOf(step.id) }))" :flush="flush" @changed="reload" @afresh="afresh"
    />
    <RehearsalPanel
      v-else-if="values.part === 'rehearsal' && parts" :course="course" :zone="zone" :revision="saving.revision.value" :title="titleOf"
      :flush="flush" />
    <NumbersPanel v-else-if="values.part === 'numbers'" :course="course" :zone="zone" />
    <StandingPanel v-else-if="values.part === 'people'" :course="course" :zone="zone" :title="titleOf" @changed="reload" />
    <template v-else>
      <section class="panel about" aria-label="Name and list">
        <div class="field">
          <label for="course-name">Name</label>
          <InputText id="course-name" v-model="typed.name" maxlength="120" :invalid="!!problem?.of('name')" />
        </div>
        <div class="field">
          <label for="course-public">Readers see it as</label>
          <InputText
            id="course-public" :model-value="typed.draft.publicName ?? ''" maxlength="80"
            :placeholder="lists.find(({ id: listId }) => listId === typed!.draft.listId)?.publicName"
            @update:model-value="value => typed!.draft.publicName = value || undefined" />
        </div>
        <SelectField
          v-model="typed.draft.listId" label="Belongs to the list" :options="lists.map(list => ({ name: list.name, value: list.id }))"
          placeholder="choose a list" :invalid="asked && typed.draft.listId === null" />
        <div class="field">
          <span class="label">How people come in</span>
          <p class="door-words"><button type="button" class="link-button" @click="set({ part: 'entries' })">{{ wayIn }}</button></p>
        </div>
      </section>

      <p class="hours small"><span class="second">Its emails leave {{ sayHours(hours) }}.</span> <button type="button" class="link-button small" :aria-expanded="narrowing" @click="narrowing = !narrowing">{{ narrowing ? 'Close the hours' : typed.draft.hours ? 'Hours of its own' : 'Narrow this course' }}</button></p>
      <section v-if="narrowing" class="panel panel-body narrow" aria-label="Hours of this course">
        <WeekHours
          :model-value="typed.draft.hours ?? course.hours" label="Hours of this course" :within="course.hours"
          @update:model-value="next => typed!.draft.hours = next === course!.hours ? null : next" />
        <p class="second small">Only within the sending hours of the workspace, which are in <NuxtLink to="/settings">Settings</NuxtLink>. <button v-if="typed.draft.hours" type="button" class="link-button small" @click="typed.draft.hours = null">Take the workspace’s</button></p>
        <p v-if="problem?.of('hours')" class="problem small" role="alert">{{ problem.of('hours') }}</p>
      </section>

      <JoinerBar v-model="joiner" :course-id="id" :workspace-zone="zone" :any-own-zone="all.some(step => step.zone === 'subscriber')"
                 :fields="fieldsUsed" />

      <div class="ladder">
        <div class="titles small second" aria-hidden="true">
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
          v-model="typed.draft.steps" tag="ol" class="steps" group="steps" handle=".grip" :animation="120" :clone="(one: DraftStep) => one">
          <!-- One element for each step: what is dragged out of the row must be all of it. -->
          <li v-for="step in typed.draft.steps" :key="step.id" class="item">
            <StepRow
              v-if="step.kind === 'email'" :step="step" :number="numberOf(step.id)" :date="dates.get(step.id)" :joined-at="joinedAt ?? 0"
              :workspace-zone="zone" :field-name="fieldName" :numbers="numbersOf(step.id)" :course-id="id" :open="step.id === openId"
              :problem="missingOf(step.id)[0]"
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
      <p class="more"><AddStep where="at the end of the course" @add="kind => add(kind)" /></p>
      <p class="second small along">Take it along: <a :href="`/api/courses/${id}/export?as=json&workspace=${frame.mode}`">as JSON</a> or <a :href="`/api/courses/${id}/export?as=folder&workspace=${frame.mode}`">as a folder of Markdown files</a>. It can be brought in again under Courses, here or elsewhere.</p>
      <RulesBeside kind="course" :id="id" class="beside" />
    </template>

    <WhoPanel v-if="whoOf" :course-id="id" :asked="{ way: whoOf }" :words="wayWords(whoOf)" :zone="zone" @close="whoOf = null" />
    <StepPanel
      v-if="open?.kind === 'email' && stepPlace" :model-value="open" :number="numberOf(open.id)" :is-first="all[0]?.id === open.id"
      :place="stepPlace"
      :date="dates.get(open.id)" :list-id="typed.draft.listId" :tags="tags" :later="later" :problems="missingOf(open.id)"
      :date-fields="course.dateFields" :entry-date-id="typed.draft.dates?.fieldId ?? null" :hours="hours" :today="joiner.date"
      :sells="course.sells.find(({ stepId }) => stepId === openId)?.offers ?? []"
      @close="openId = null" @update:model-value="change" @move="moveOpen" @into="moveInto" @remove="remove" @copy="copy"
    />
    <OtherStepPanel v-else-if="open && stepPlace && parts" :key="open.id" :model-value="(open as Exclude<DraftStep, DraftEmail>)"
                    :title="titleOf(open.id)" :is-first="all[0]?.id === open.id" :place="stepPlace"
                    :date="dates.get(open.id)" :date-fields="course.dateFields" :entry-date-id="typed.draft.dates?.fieldId ?? null"
                    :today="joiner.date"
                    :problem="missingOf(open.id)[0]"
                    :emails="all.filter(step => step.kind === 'email').map(step => ({ id: step.id, name: `in “${titleOf(step.id)}”` }))"
                    :others="all.filter(step => step.id !== openId).map(step => ({ id: step.id, name: titleOf(step.id) }))"
                    @close="openId = null" @update:model-value="change" @move="moveOpen" @into="moveInto" @remove="remove" @copy="copy"
    />
    <StartDialog
      v-if="asking && course.status === 'draft'" v-model:visible="asking" :course="course" :revision="saving.revision.value"
      :title="titleOf" :flush="flush" @done="done" @afresh="afresh" />
    <PublishDialog
      v-else-if="asking" v-model:visible="asking" :course="course" :zone="zone" :revision="saving.revision.value" :title="titleOf"
      :say="step => names ? sayStep(step, names, titleOf) : ''" @done="done">
      <KeptRehearsals :course-id="id" :zone="zone" :revision="saving.revision.value" brief />
    </PublishDialog>
  </div>
</template>

<style scoped>
.note { margin-bottom: 12px; }
.narrow { margin-bottom: 12px; }
.hours { margin: -4px 0 10px; }
.narrow { max-width: 760px; }
.problem { color: var(--p-porch-brick); }
.stopped { display: flex; align-items: center; gap: 16px; justify-content: space-between; }
.about { display: grid; grid-template-columns: 1.1fr 1fr 1fr 1.3fr; gap: 14px; padding: 12px 14px; margin-bottom: 12px; }
.door-words { min-height: 34px; display: flex; align-items: center; }
.door-words .link-button { text-align: left; }
.ladder {
  display: grid; grid-template-columns: 116px 24px minmax(220px, 1fr) repeat(5, minmax(52px, auto)); gap: 12px 10px; margin: 14px 0 0;
}
.beside { margin-top: 16px; }
.along { padding: 12px 0 0 150px; }
.steps { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; gap: 12px 10px; margin: 0; padding: 0; list-style: none; }
.item, .other { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; }
.whole { grid-column: 3 / -1; }
.more { padding: 12px 0 0 150px; }
.titles { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; margin-bottom: -6px; }
.right { text-align: right; }
@media (max-width: 1000px) { .about { grid-template-columns: 1fr 1fr; } }
@media (max-width: 760px) {
  .ladder { grid-template-columns: 76px 18px minmax(0, 1fr); column-gap: 6px; }
  .titles { display: none; }
  .along, .more { padding-left: 0; }
}
</style>
