<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import Select from 'primevue/select'
import { allSteps } from '#core/sequence/program'
import type { DraftStep } from '#core/sequence/draft'
import type { CourseStanding, CourseView } from '#core/views/course'
import { sayMoment } from '#core/time/say'
import { DAY, HOUR } from '#core/time/zone'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayPeople, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import TablePages from '~/components/TablePages.vue'
import StandingMenu from './StandingMenu.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Who stands where in a course, the longest first, and what can be done to one of them by hand. */
const props = defineProps<{ course: CourseView, zone: string, title: (stepId: string) => string }>()
const emit = defineEmits<{ changed: [] }>()

const PAGE = 50
const stepId = ref('')
const page = ref(0)
watch(stepId, () => page.value = 0)
const { data, problem, load } = useFresh(
  () => api('GET /courses/:id/people', { at: { id: props.course.id }, query: { from: page.value * PAGE, stepId: stepId.value } }),
  () => [stepId.value, page.value],
)
const steps = computed(() => [{
  id: '', name: `every step: ${sayPeople(data.value?.inside ?? props.course.counts.inside)}`,
}, ...allSteps<DraftStep>(props.course.draft.steps)
  .map(({ id }) => ({ id, waiting: props.course.numbers.find(row => row.stepId === id)?.waiting ?? 0 })).filter(({ waiting }) =>
    waiting > 0).map(({ id, waiting }) => ({ id, name: `before “${props.title(id)}”: ${sayPeople(waiting)}` }))])
const total = computed(() =>
  stepId.value ? props.course.numbers.find(row => row.stepId === stepId.value)?.waiting ?? 0 : data.value?.inside ?? 0)
const frame = useFrame()
const now = computed(() => frame.now)
function since(at: number): string {
  const ms = now.value - at
  return ms >= 2 * DAY
    ? saySome(Math.floor(ms / DAY), 'day', 'days')
    : ms >= HOUR ? saySome(Math.floor(ms / HOUR), 'hour', 'hours') : 'less than an hour'
}
function waitsFor({ stillSince, pausedUntilAt, dueAt, held }: CourseStanding['rows'][number]): string {
  if (stillSince !== null) return 'paused by you'
  if (pausedUntilAt !== null) return `paused by them until ${sayMoment(pausedUntilAt, props.zone)}`
  if (dueAt === null) return 'a step that is empty or paused'
  return held ? `the hold, until at most ${sayMoment(dueAt, props.zone)}` : sayMoment(dueAt, props.zone)
}
const COLUMNS: PlainColumn[] = [
  { key: 'who', head: 'Person' }, { key: 'before', head: 'Next step' }, { key: 'for', head: 'Here for' },
  { key: 'waits', head: 'Waiting for' },
  { key: 'byHand', head: 'Actions' },
]
const chosen = ref<CourseStanding['rows'][number] | null>(null)
const menu = ref<InstanceType<typeof StandingMenu> | null>(null)
async function openMenu(row: CourseStanding['rows'][number], event: Event) {
  // The event is over by the time the menu is there, and forgets where it was.
  const at = { currentTarget: event.currentTarget } as Event
  chosen.value = row
  await nextTick()
  menu.value!.open(at)
}
async function changed() {
  await load()
  emit('changed')
}
</script>

<template>
  <div class="fields">
    <ProblemNote :of="problem" />
    <div class="line">
      <span id="standing-where">People at</span>
      <Select
        v-model="stepId" :options="steps" option-label="name" option-value="id" size="small" :placeholder="steps[0]!.name"
        aria-labelledby="standing-where" />
      <span class="second small">longest wait first</span>
    </div>
    <template v-if="data">
      <section v-if="data.rows.length" class="panel">
        <PlainTable :rows="data.rows" :columns="COLUMNS">
          <template #who="{ row }"><NuxtLink :to="`/subscribers/${row.personId}`">{{ row.name }}</NuxtLink></template>
          <template #before="{ row }">
            {{ row.stepId ? title(row.stepId) : '' }} <span v-if="row.occursOn" class="second small">of {{ row.occursOn }}</span>
          </template>
          <template #for="{ row }"><span :title="sayMoment(row.sinceAt, zone)">{{ since(row.sinceAt) }}</span></template>
          <template #waits="{ row }">{{ waitsFor(row) }}</template>
          <template #byHand="{ row }">
            <button
              type="button" class="by-hand" :aria-label="`What to do with ${row.name}`" aria-haspopup="true"
              @click="event => openMenu(row, event)">
              <i class="pi pi-ellipsis-h" aria-hidden="true" />
            </button>
          </template>
        </PlainTable>
      </section>
      <p v-else class="second">Nobody is here.</p>
    </template>
    <StandingMenu
      v-if="chosen" ref="menu" :enrolment-id="chosen.id" :name="chosen.name" :still="chosen.stillSince !== null"
      :steps="allSteps<DraftStep>(course.draft.steps).map(step => ({ id: step.id, name: title(step.id) }))" @done="changed" />
    <TablePages v-if="total > PAGE" :page="page" :page-size="PAGE" :total="total" :shown="data?.rows.length ?? 0" one="person" many="people"
                @go="next => page = next" />
  </div>
</template>

<style scoped>
.by-hand { width: 34px; height: 26px; border: 0; border-radius: 6px; background: none; color: var(--p-porch-spruce); cursor: pointer; }
.by-hand:hover { background: var(--p-porch-rail); }
.line { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
</style>
