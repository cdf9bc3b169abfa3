<script setup lang="ts">
import AstrayNotes from '~/components/AstrayNotes.vue'
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Select from 'primevue/select'
import { EVERYBODY } from '#core/audience/condition'
import { asksNothing, ACTION_KINDS, type Action } from '#core/rules/rule'
import type { CourseDraft } from '#core/sequence/draft'
import type { WayOut } from '#core/sequence/program'
import type { CourseView, EntryOrExit } from '#core/views/course'
import { sayMoment } from '#core/time/say'
import { freshId } from '~/courses/steps'
import { sayPeople } from '#core/stats/say'
import { actionChoices, newWhen } from '~/rules/choices'
import { useRuleParts } from '~/composables/useParts'
import ActionRow from '~/components/rule/ActionRow.vue'
import WhenRow from '~/components/rule/WhenRow.vue'
import { ConditionEditor } from '~/editor/lazy'
import MarkPicker from '~/components/MarkPicker.vue'
import SelectField from '~/components/SelectField.vue'
import PutIn from './PutIn.vue'
import TermTip from '~/components/TermTip.vue'

/** Everything that lets people into a course, takes them out of it, and leads them on, wherever it is set. */
const draft = defineModel<CourseDraft>({ required: true })
const props = defineProps<{
  course: CourseView
  zone: string
  lists: { id: number, name: string }[]
  tags: { id: number, name: string }[]
  make: (what: 'lists' | 'tags', name: string) => Promise<number>
  /** Every step, by its name. */
  steps: { id: string, name: string }[]
  flush: () => Promise<boolean>
}>()
const emit = defineEmits<{ changed: [], /** What is written was changed on the server. */ afresh: [] }>()

const parts = useRuleParts()
const set = (change: Partial<CourseDraft>) => draft.value = { ...draft.value, ...change }
const KINDS = ACTION_KINDS.filter(kind => kind !== 'email')
const AGAIN: { value: CourseDraft['again'], name: string }[] = [
  { value: 'once', name: 'once ever' }, { value: 'after-ending', name: 'again after leaving or finishing' },
  { value: 'always', name: 'always; people inside start over' },
]
const WHERE: Record<EntryOrExit['kind'], (id: number) => string> = {
  page: id => `/pages/${id}?part=gives`, offer: id => `/offers/${id}?part=gives`, link: id => `/links/${id}`,
  rule: id => `/house-rules/${id}`, course: id => `/courses/${id}?part=entries`,
}
const SETS: Record<EntryOrExit['kind'], string> = {
  page: 'opting in on', offer: 'buying', link: 'following', rule: 'the house rule', course: 'the course',
}

/* Coming in */

const byDate = computed(() => draft.value.dates !== undefined)
function setByDate(on: boolean) {
  const { dates: _, ...rest } = draft.value
  draft.value = on ? { ...rest, dates: { fieldId: props.course.dateFields[0]!.id, everyMonths: 12 } } : rest
}
const RETURNS = [
  { value: 0, name: 'once' }, { value: 1, name: 'every month' }, { value: 3, name: 'every three months' },
  { value: 6, name: 'every six months' }, { value: 12, name: 'every year' }, { value: 24, name: 'every two years' },
]
const firstReturn = computed(() => RETURNS.find(({ value }) => value === draft.value.dates?.everyMonths)?.name.replace(
  /^every (?:month|year)$/, name => `one ${name.slice(6)}`,
).replace(/^every /, '') ?? '')
function setReturns(everyMonths: number) {
  const { fromFirst, ...rest } = draft.value.dates!
  set({ dates: { ...rest, everyMonths, ...everyMonths !== 0 && fromFirst && { fromFirst } } })
}
function setWithDate(counts: boolean) {
  const { fromFirst: _, ...rest } = draft.value.dates!
  set({ dates: { ...rest, ...!counts && { fromFirst: true as const } } })
}
const asksEntry = ref(draft.value.entry !== undefined)
function setEntry(entry: CourseDraft['entry']) {
  const { entry: _, ...rest } = draft.value
  draft.value = entry && !asksNothing(entry) ? { ...rest, entry } : rest
}

/* Going out */

const waysOut = computed(() => draft.value.waysOut ?? [])
const fromWhere = computed(() => [
  { id: '', name: 'from everywhere in the course' }, ...props.steps.map(({ id, name }) => ({ id, name: `only from “${name}” on` })),
])
const setOut = (n: number, change: Partial<WayOut>) =>
  set({ waysOut: waysOut.value.map((way, at) => at === n ? { ...way, ...change } : way) })
const addOut = () => set({ waysOut: [...waysOut.value, { id: freshId(), when: newWhen('bought', parts.value), fromStepId: null }] })

/* After the end */

const onFinish = computed(() => draft.value.onFinish ?? [])
const setFinish = (n: number, action: Action) => set({ onFinish: onFinish.value.map((one, at) => at === n ? action : one) })
const addFinish = () => set({
  onFinish: [...onFinish.value, actionChoices(parts.value).find(({ value }) => KINDS.includes(value as typeof KINDS[number]))!.make()],
})
</script>

<template>
  <div class="entries-and-exits">
    <section class="panel panel-body side" aria-labelledby="ways-in-head">
      <h2 id="ways-in-head"><TermTip of="ways-in-and-out">Ways in</TermTip></h2>
      <label class="tick"><Checkbox :model-value="byDate" binary :disabled="!course.dateFields.length" @update:model-value="setByDate" />
        People join on a date of their own: a birthday, a renewal, an anniversary</label>
      <p v-if="!course.dateFields.length" class="second small">There is no date field yet; make one in
        <NuxtLink to="/settings">Settings</NuxtLink>.</p>
      <template v-if="draft.dates">
        <div class="line">
          <span>Their</span>
          <Select
            :model-value="draft.dates.fieldId" :options="course.dateFields" option-label="name" option-value="id" size="small"
            aria-label="Which date" @update:model-value="fieldId => set({ dates: { ...draft.dates!, fieldId } })" />
          <Select
            :model-value="draft.dates.everyMonths" :options="RETURNS" option-label="name" option-value="value" size="small"
            aria-label="How often it returns" @update:model-value="setReturns" />
        </div>
        <label v-if="draft.dates.everyMonths" class="tick">
          <Checkbox :model-value="!draft.dates.fromFirst" binary @update:model-value="setWithDate" />
          The date itself counts; otherwise the first time is {{ firstReturn }} later</label>
        <p class="second small">Each time the date returns, they take the course again. If the date changes, emails not sent yet follow
          the new date.</p>
      </template>
      <template v-else>
        <div class="field">
          <label for="ways-in">Getting one of these tags</label>
          <MarkPicker :model-value="draft.wayInTagIds" input-id="ways-in" what="tag" :options="tags" :make="name => make('tags', name)"
                      @update:model-value="wayInTagIds => set({ wayInTagIds })" />
        </div>
        <div class="field">
          <label for="ways-in-lists">Joining one of these lists</label>
          <MarkPicker
            :model-value="draft.wayInListIds ?? []" input-id="ways-in-lists" what="list" :options="lists"
            :make="name => make('lists', name)" @update:model-value="wayInListIds => set({ wayInListIds })" />
        </div>
      </template>
      <p v-for="one in course.entriesAndExits.in" :key="`${one.kind}${one.id}`" class="entry">
        <i
          class="pi pi-arrow-right small" aria-hidden="true" /> <span class="second">{{ SETS[one.kind] }}</span> <NuxtLink
          :to="WHERE[one.kind](one.id)">{{ one.name }}</NuxtLink></p>
      <AstrayNotes :astray="course.astray" :flush="flush" @mended="emit('afresh')" />
      <label class="tick">
        <Checkbox :model-value="draft.joinsList === true" binary @update:model-value="on => set({ joinsList: on || undefined })" />
        Everyone who joins the course also joins its list, unless they left it
      </label>
      <p v-if="course.scheduledEntries.people" class="note lamp small">{{ sayPeople(course.scheduledEntries.people) }}
        {{ course.scheduledEntries.people === 1 ? 'is' : 'are' }} scheduled to join: the next on
        {{ sayMoment(course.scheduledEntries.nextAt!, zone) }}, the last on {{ sayMoment(course.scheduledEntries.lastAt!, zone) }}.</p>
      <p v-if="!draft.dates" class="second small">Tags added by imports, or by bulk changes in
        <NuxtLink to="/subscribers">Subscribers</NuxtLink>, count, too.</p>
      <PutIn v-if="course.status === 'running' && !draft.dates" :course-id="course.id" @done="emit('changed')" />
      <div class="field">
        <span class="label">Conditions for joining</span>
        <p
          v-if="!asksEntry" class="line">Everybody can join. <button type="button" class="link-button small" @click="asksEntry = true">Only
          some</button></p>
        <template v-else>
          <ConditionEditor :model-value="draft.entry ?? EVERYBODY" :segment-id="null" @update:model-value="setEntry" />
          <p class="second small">Checked when someone would join. People turned away can join later; their history shows it.</p>
          <p v-if="!draft.entry"><button type="button" class="link-button small" @click="asksEntry = false">Everybody</button></p>
        </template>
      </div>
      <SelectField
        v-if="!draft.dates" :model-value="draft.again" label="People can take it" :options="AGAIN"
        @update:model-value="again => set({ again })" />
    </section>

    <section class="panel panel-body side" aria-labelledby="ways-out-head">
      <h2 id="ways-out-head">Ways out</h2>
      <p class="second small">People who leave get no more of its emails, and emails not sent yet are withdrawn.</p>
      <div v-for="(way, n) in waysOut" :key="way.id" class="way">
        <WhenRow :model-value="way.when" :label="`Way out ${n + 1}`" @update:model-value="when => setOut(n, { when })" />
        <div class="line">
          <Select
            :model-value="way.fromStepId ?? ''"
            :options="fromWhere"
            option-label="name" option-value="id" size="small" placeholder="from everywhere in the course"
            :aria-label="`Way out ${n + 1}: from where`" @update:model-value="id => setOut(n, { fromStepId: id || null })" />
          <button
            type="button" class="link-button small brick-text last" @click="set({ waysOut: waysOut.filter((_, at) => at !== n) })">Remove
            it</button>
        </div>
      </div>
      <p><button type="button" class="link-button" @click="addOut"><i class="pi pi-plus small" aria-hidden="true" /> a way out</button></p>
      <p v-for="one in course.entriesAndExits.out" :key="`${one.kind}${one.id}`" class="entry">
        <i
          class="pi pi-arrow-left small" aria-hidden="true" /> <span class="second">{{ SETS[one.kind] }}</span> <NuxtLink
          :to="WHERE[one.kind](one.id)">{{ one.name }}</NuxtLink></p>
      <p class="second small">Always: leaving its list, unsubscribing, a bounced address, a complaint.</p>

      <h2 class="on">After the end</h2>
      <p class="second small">What happens to people who finish.</p>
      <ActionRow
        v-for="(action, n) in onFinish" :key="n" :model-value="action" :label="`At the end ${n + 1}`" :kinds="KINDS"
        @update:model-value="next => setFinish(n, next)" @remove="set({ onFinish: onFinish.filter((_, at) => at !== n) })" />
      <p><Button :label="onFinish.length ? 'and something else' : 'something'" icon="pi pi-plus" text size="small" @click="addFinish" /></p>
    </section>
  </div>
</template>

<style scoped>
.entries-and-exits { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr)); gap: 16px; align-items: start; }
.side { display: grid; gap: 10px; }
h2 { font-size: 16px; }
h2.on { padding-top: 8px; }
.line { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.tick { display: inline-flex; align-items: center; gap: 8px; }
.way { display: grid; gap: 6px; padding: 8px 10px; border-radius: 8px; background: var(--p-porch-rail); }
.entry { overflow-wrap: anywhere; }
.last { margin-left: auto; }
.brick-text { color: var(--p-porch-brick); }
</style>
