<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Select from 'primevue/select'
import { allSteps } from '#core/sequence/program'
import type { DraftStep } from '#core/sequence/draft'
import type { CourseStanding, CourseView } from '#core/views/course'
import { sayMoment } from '#core/time/say'
import { DAY, HOUR } from '#core/time/zone'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayPeople, saySome } from '~/look/say'
import { useFrame } from '~/stores/frame'
import TablePages from '~/components/TablePages.vue'
import StandingMenu from './StandingMenu.vue'

/** Who stands where in a course, the longest first, and what can be done to one of them by hand. */
const props = defineProps<{ course: CourseView, zone: string, title: (stepId: string) => string }>()
const emit = defineEmits<{ changed: [] }>()

const PAGE = 50
const stepId = ref('')
const page = ref(0)
watch(stepId, () => page.value = 0)
const { data, problem, load } = useFresh(() => api<CourseStanding>(`courses/${props.course.id}/people?from=${page.value * PAGE}${stepId.value ? `&stepId=${stepId.value}` : ''}`), () => [stepId.value, page.value])
const steps = computed(() => [{ id: '', name: `everywhere: ${sayPeople(data.value?.inside ?? props.course.counts.inside)}` }, ...allSteps<DraftStep>(props.course.draft.steps)
  .map(({ id }) => ({ id, waiting: props.course.numbers.find(row => row.stepId === id)?.waiting ?? 0 })).filter(({ waiting }) => waiting > 0).map(({ id, waiting }) => ({ id, name: `before “${props.title(id)}”: ${sayPeople(waiting)}` }))])
const total = computed(() => stepId.value ? props.course.numbers.find(row => row.stepId === stepId.value)?.waiting ?? 0 : data.value?.inside ?? 0)
const frame = useFrame()
const now = computed(() => frame.now)
function since(at: number): string {
  const ms = now.value - at
  return ms >= 2 * DAY ? saySome(Math.floor(ms / DAY), 'day', 'days') : ms >= HOUR ? saySome(Math.floor(ms / HOUR), 'hour', 'hours') : 'less than an hour'
}
function waitsFor({ stillSince, pausedUntilAt, dueAt, held }: CourseStanding['rows'][number]): string {
  if (stillSince !== null) return 'stands still, by your hand'
  if (pausedUntilAt !== null) return `paused by themselves until ${sayMoment(pausedUntilAt, props.zone)}`
  if (dueAt === null) return 'until the step is written, or not paused any more'
  return held ? `what the hold waits for, at most until ${sayMoment(dueAt, props.zone)}` : sayMoment(dueAt, props.zone)
}
async function changed() {
  await load()
  emit('changed')
}
</script>

<template>
  <div class="fields">
    <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>
    <div class="line"><span id="standing-where">Who stands</span><Select v-model="stepId" :options="steps" option-label="name" option-value="id" size="small" :placeholder="steps[0]!.name" aria-labelledby="standing-where" /><span class="second small">the longest first</span></div>
    <DataTable v-if="data" :value="data.rows" data-key="id" size="small" class="panel">
      <template #empty>Nobody stands here.</template>
      <Column header="Who"><template #body="{ data: row }"><NuxtLink :to="`/subscribers/${row.personId}`">{{ row.name }}</NuxtLink></template></Column>
      <Column header="Before"><template #body="{ data: row }">{{ row.stepId ? title(row.stepId) : '' }}<span v-if="row.occursOn" class="second small"> of {{ row.occursOn }}</span></template></Column>
      <Column header="For"><template #body="{ data: row }"><span :title="sayMoment(row.sinceAt, zone)">{{ since(row.sinceAt) }}</span></template></Column>
      <Column header="Waits for"><template #body="{ data: row }">{{ waitsFor(row) }}</template></Column>
      <Column header="By hand"><template #body="{ data: row }"><StandingMenu :enrolment-id="row.id" :name="row.name" :still="row.stillSince !== null" :steps="allSteps<DraftStep>(course.draft.steps).map(step => ({ id: step.id, name: title(step.id) }))" @done="changed" /></template></Column>
    </DataTable>
    <TablePages v-if="total > PAGE" :page="page" :page-size="PAGE" :total="total" :shown="data?.rows.length ?? 0" one="person" many="people" @go="next => page = next" />
  </div>
</template>

<style scoped>
.line { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
</style>
