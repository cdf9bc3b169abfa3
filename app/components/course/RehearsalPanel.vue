<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import { useToast } from 'primevue/usetoast'
import { emailsOf, titleOfEmail } from '#core/sequence/draft'
import { dateFieldsOf } from '#core/sequence/program'
import { readyReaders, type RehearsedReader, type StoryLine } from '#core/sequence/rehearsal'
import { sayDay, sayZone } from '#core/time/say'
import { addDays, instantOf, localOf } from '#core/time/zone'
import type { CourseView } from '#core/views/course'
import type { RehearsalView } from '#core/views/rehearsal'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useNewest } from '~/composables/useNewest'
import { useRuleParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import { daysOf, sayReader, sayWarning } from '~/courses/rehearsal'
import KeptRehearsals from './KeptRehearsals.vue'
import ReaderForm from './ReaderForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The course played by the real engine for invented readers, side by side. */
const props = defineProps<{ course: CourseView, zone: string, revision: string | undefined, title: (
  stepId: string,
) => string, flush: () => Promise<boolean> }>()
const parts = useRuleParts()
const frame = useFrame()
const toast = useToast()

const offers = computed(() => parts.value.offers)
const emails = computed(() => emailsOf(props.course.draft).map(step => ({ id: step.id, name: titleOfEmail(step) })))
const tomorrow = computed(() => addDays(localOf(frame.now, props.zone).date, 1))
const sold = props.course.sells[0]?.offers[0]?.id ?? props.course.entriesAndExits.out.find(({ kind }) => kind === 'offer')?.id
  ?? offers.value[0]?.id ?? null
const fields = computed(() => props.course.dateFields.filter(({ id }) => dateFieldsOf(props.course.draft).includes(id)))
const withDates = (reader: RehearsedReader): RehearsedReader => ({
  ...reader, dates: { ...Object.fromEntries(fields.value.map(({ id }) => [id, addDays(tomorrow.value, 14)])), ...reader.dates },
})
const readers = ref<RehearsedReader[]>([])

const view = ref<RehearsalView | null>(null)
const { busy, problem, attempt } = useAttempt()
const asked = useNewest()
async function tell() {
  const isNewest = asked()
  const fine = await attempt(async () => {
    if (!(await props.flush())) return
    const answer = await api('POST /courses/:id/rehearsals/try', { at: { id: props.course.id }, body: { readers: readers.value } })
    if (isNewest()) view.value = answer
  })
  if (!fine && isNewest()) view.value = null
}
watch(() => [JSON.stringify(readers.value), props.revision], () => {
  if (readers.value.length > 0) void tell()
})
readers.value = readyReaders({ date: tomorrow.value, time: '12:00' }, null, sold).map(withDates)

const editing = ref<number | null>(null)
const change = (n: number, reader: RehearsedReader) => {
  readers.value = n < readers.value.length ? readers.value.map((one, at) => at === n ? reader : one) : [...readers.value, reader]
  editing.value = null
}
const MOST = 4
const fresh = (): RehearsedReader =>
  withDates({ ...readyReaders({ date: tomorrow.value, time: '12:00' }, null, null)[0]!, name: `Reader ${readers.value.length + 1}` })

const SHOWN = [{ value: 'all', name: 'Everything' }, { value: 'mail', name: 'Emails only' }]
const shown = ref<'all' | 'mail'>('all')
/** What says little to who reads the story: a step’s own bookkeeping, segments that follow from what is told. */
const QUIET = ['did-step', 'checkout-started', 'withdrawn', 'entered-segment', 'left-segment']
const isShown = (line: StoryLine) => shown.value === 'all' ? !QUIET.includes(line.kind) : line.sort === 'mail' || line.sort === 'held'
const zones = computed(() => readers.value.map(({ zone }) => zone ?? props.zone))
const days = computed(() => view.value && view.value.stories.length === readers.value.length
  ? daysOf(view.value.stories.map(({ lines }) => lines.filter(isShown)), zones.value, readers.value[0]!.joins.date)
  : [])
const warningsAt = (n: number, line: StoryLine) =>
  line.sort === 'mail' ? view.value!.stories[n]!.warnings.filter(warning => warning.at === line.at && warning.stepId === line.stepId) : []
const mails = (n: number) => view.value?.stories[n]?.lines.filter(({ sort }) => sort === 'mail').length ?? 0
const noted = (n: number) => view.value?.stories[n]?.warnings.length ?? 0

const keptList = ref<InstanceType<typeof KeptRehearsals>>()
async function keep(n: number) {
  await api('POST /courses/:id/rehearsals', {
    at: { id: props.course.id }, body: { reader: readers.value[n]!, lines: view.value!.stories[n]!.lines },
  })
  toast.add({ severity: 'success', summary: `${readers.value[n]!.name} is kept with the course.`, life: 5000 })
  await keptList.value?.load()
}
</script>

<template>
  <div>
    <KeptRehearsals ref="keptList" :course-id="course.id" :zone="zone" :revision="revision" @open="({ reader }) => readers = [reader]" />
    <div class="bar">
      <p class="second" aria-live="polite">{{ busy
        ? 'Playing it again…'
        : 'The real engine plays the course as it is now, on a copy. Nothing happens to anybody.' }}</p>
      <SelectButton
        v-model="shown" :options="SHOWN" option-label="name" option-value="value" :allow-empty="false" size="small"
        aria-label="What to show" />
      <Button v-if="readers.length < MOST" label="Add a reader" severity="secondary" size="small" @click="editing = readers.length" />
    </div>
    <ProblemNote :of="problem" first />
    <p v-if="view?.unreachable.length" class="note lamp">Nobody can reach
      {{ view.unreachable.map(id => `“${title(id)}”`).join(', ') }}.</p>
    <div class="stage" :aria-busy="busy" tabindex="0" role="region" aria-label="Readers side by side">
      <table v-if="readers.length" class="stories">
        <thead>
          <tr>
            <th class="when small second">Day</th>
            <th v-for="(reader, n) in readers" :key="n">
              <span class="who"><strong>{{ reader.name }}</strong>
                <button type="button" class="link-button small" @click="editing = n">change</button>
                <button v-if="view" type="button" class="link-button small" @click="keep(n)">save</button>
                <button v-if="readers.length > 1" type="button" class="link-button small" :aria-label="`Remove ${reader.name}`"
                        @click="readers = readers.filter((_, at) => at !== n)">remove</button>
              </span>
              <span class="small second does">{{ sayReader(reader, offers) }}.</span>
              <span class="small">
                <strong>{{ mails(n) }}</strong>
                {{ mails(n) === 1 ? 'email' : 'emails' }}<template v-if="noted(n)">, <span class="noted">{{ noted(n) }} to check</span>
                </template>
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in days" :key="row.date">
            <th class="when small">
              <span>{{ sayDay(instantOf(row.date, '12:00', zone), zone) }}</span>
              <span class="second">day {{ row.day }}</span>
            </th>
            <td v-for="(cell, n) in row.cells" :key="n">
              <p v-for="(line, at) in cell" :key="at" class="story-line" :class="line.sort">
                <time class="small second">{{ localOf(line.at, zones[n]!).time }}</time>
                <span>
                  {{ line.says }}<span v-for="warning in warningsAt(n, line)" :key="warning.kind" class="warning small">
                    <i class="pi pi-exclamation-triangle" aria-hidden="true" /> {{ sayWarning(warning, zones[n]!) }}</span>
                </span>
              </p>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="second small foot">Times are in each reader’s own zone where it is known, otherwise in {{ sayZone(zone) }}. The rehearsal
      covers ninety days.</p>
    <ReaderForm
      v-if="editing !== null" :reader="readers[editing] ?? fresh()" :emails="emails" :offers="offers" :tags="parts.tags"
      :ways="course.draft.dates ? [] : course.entriesAndExits.in" :date-fields="fields" @close="editing = null"
      @done="reader => change(editing!, reader)" />
  </div>
</template>

<style scoped>
.bar { display: flex; gap: 12px; align-items: center; margin-bottom: 10px; flex-wrap: wrap; }
.bar p { flex: 1; min-width: 260px; }
.stage { overflow-x: auto; background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 8px; }
.stage[aria-busy=true] { cursor: progress; }
.stories { width: 100%; border-collapse: collapse; table-layout: fixed; min-width: 640px; }
.stories th, .stories td {
  text-align: left; vertical-align: top; padding: 10px 12px; border-bottom: 1px solid var(--p-porch-line-light); font-weight: inherit;
  overflow-wrap: anywhere;
}
.stories thead th { background: var(--p-porch-rail); border-bottom-color: var(--p-porch-line); }
.when { width: 108px; }
tbody .when span { display: block; }
.who { display: flex; gap: 10px; align-items: baseline; flex-wrap: wrap; }
.who strong { font: 650 15px/1.4 var(--heading); }
.does { display: block; padding: 2px 0 4px; }
.noted { color: var(--p-porch-lamp-text); font-weight: 600; }
.story-line { display: grid; grid-template-columns: 44px 1fr; gap: 6px; padding: 2px 0; color: var(--p-porch-ink-second); }
.story-line time { padding-top: 1px; }
.story-line.mail { color: var(--p-porch-ink); font-weight: 600; }
.story-line.held { color: var(--p-porch-brick); }
.story-line.reader { color: var(--p-porch-door); }
.warning {
  display: block; font-weight: 400; padding: 1px 8px; margin-top: 2px; border-radius: 6px; background: var(--p-porch-lamp-ground);
  color: var(--p-porch-ink); width: fit-content;
}
.warning .pi { font-size: 10px; }
.foot { padding-top: 8px; }
</style>
