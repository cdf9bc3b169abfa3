<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayDay, sayTime } from '#core/time/say'
import { localOf, type Instant } from '#core/time/zone'
import type { CourseLine } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import CourseTemplates from '~/components/course/CourseTemplates.vue'
import NewCourse from '~/components/course/NewCourse.vue'
import StandingStrip from '~/components/course/StandingStrip.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ListPage from '~/components/ListPage.vue'
import StateDot from '~/components/StateDot.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

const frame = useFrame()
const { data: courses, problem } = useFresh(() => api('GET /courses'))
/** Reckoned apart: the list is there before. */
const { data: ahead } = useFresh(() => api('GET /courses/ahead'))
const aheadOf = computed(() => new Map(ahead.value?.map(one => [one.id, one])))
const making = ref(false)
const isRunning = (course: CourseLine) => course.status === 'running' && course.stoppedAt === null
const standing = computed(() => {
  if (!courses.value) return ''
  if (courses.value.length === 0) return 'Emails timed from the moment someone joins.'
  const inside = courses.value.reduce((sum, course) => sum + course.inside, 0)
  const week = ahead.value?.reduce((sum, { comingWeek }) => sum + comingWeek, 0)
  const sends = week === undefined ? '' : ` ${saySome(week, 'course email goes', 'course emails go')} out in the next 7 days.`
  return `${saySome(courses.value.length, 'course', 'courses')} with ${sayPeople(inside)} inside.${sends}`
})

/** A dot stands for so many that the fullest step has few enough of them to be seen. */
const MOST_DOTS = 30
const perDot = computed(() => {
  const most = Math.max(1, ...ahead.value?.flatMap(({ steps }) => steps.map(({ people }) => people)) ?? [])
  return [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000].find(n => most / n <= MOST_DOTS) ?? Math.ceil(most / MOST_DOTS)
})
const columns = computed<PlainColumn[]>(() => [
  { key: 'course', head: 'Course' },
  { key: 'standing', head: `People inside, by step (one dot is ${sayPeople(perDot.value)})`, class: 'wide' },
  { key: 'inside', head: 'Inside', class: 'number' }, { key: 'finished', head: 'Finished', class: 'number' },
  { key: 'left', head: 'Left', class: 'number' }, { key: 'weeks', head: 'Emails a week' }, { key: 'next', head: 'Next send' },
])
const span = (id: number) => {
  const steps = aheadOf.value.get(id)?.steps ?? []
  const last = Math.max(0, ...steps.map(({ day }) => day ?? 0))
  return last > 0 ? ` in ${saySome(last, 'day', 'days')}` : ''
}
const nextAt = (id: number) => aheadOf.value.get(id)?.next?.at ?? Infinity
const sayAt = (at: Instant) => localOf(at, frame.zone).date === localOf(frame.now, frame.zone).date
  ? `Today ${sayTime(at, frame.zone)}`
  : `${sayDay(at, frame.zone)}, ${sayTime(at, frame.zone)}`
const STATES = [
  { name: 'Running', is: isRunning }, { name: 'Stopped', is: (course: CourseLine) => course.stoppedAt !== null },
  { name: 'Drafts', is: (course: CourseLine) => course.status === 'draft' },
]
const ORDERS = [
  { name: 'Next send first', compare: (a: CourseLine, b: CourseLine) => nextAt(a.id) - nextAt(b.id) },
  { name: 'Most people first', compare: (a: CourseLine, b: CourseLine) => b.inside - a.inside },
  { name: 'By name', compare: (a: CourseLine, b: CourseLine) => a.name.localeCompare(b.name) },
]
</script>

<template>
  <ListPage
    title="Courses" how="course" :standing="standing" kind="course" :rows="courses" :problem="problem" :columns="columns" to="/courses"
    :weekly="{ kind: 'course', words: 'Emails' }" :states="STATES" :orders="ORDERS"
    :find="{ by: ({ name, subjects }) => [name, ...subjects], words: 'names and subjects' }">
    <template #actions><Button id="new-course" data-opens label="New course" @click="making = true" /></template>
    <template #none>
      <h2>Make the first course</h2>
      <p class="second">For example, three emails: one at once with what you promised, one a day later, one on the third day at 08:00. You
        see real dates for a sample joiner while you write.</p>
    </template>
    <template #course="{ row }">
      <NuxtLink :to="`/courses/${row.id}`" class="name">{{ row.name }}</NuxtLink>
      <span class="second small sub">{{ saySome(row.emails, 'email', 'emails') }}{{ span(row.id) }}</span>
      <StateDot v-if="row.stoppedAt !== null" is="paused" :words="`stopped since ${sayDay(row.stoppedAt, frame.zone)}`" class="small" />
      <StateDot v-else-if="row.status === 'running'" is="on" :words="row.empty ? `running, ${row.empty} empty` : 'running'" class="small" />
      <StateDot
        v-else is="off" :words="row.empty ? `draft, ${row.emails - row.empty} of ${row.emails} written` : 'draft'" class="small" />
    </template>
    <template #standing="{ row }">
      <StandingStrip v-if="aheadOf.has(row.id)" :steps="aheadOf.get(row.id)!.steps" :per-dot="perDot" :quiet="!isRunning(row)" />
    </template>
    <template #inside="{ row }">
      <strong class="big"><PeopleNumber :people="row.inside" :query="{ course: row.id, is: 'inside' }" /></strong>
    </template>
    <template #finished="{ row }"><PeopleNumber :people="row.finished" :query="{ course: row.id, is: 'finished' }" /></template>
    <template #left="{ row }"><PeopleNumber :people="row.left" :query="{ course: row.id, is: 'left' }" /></template>
    <template #next="{ row }">
      <template v-if="aheadOf.get(row.id)?.next">
        <strong class="when">{{ sayAt(aheadOf.get(row.id)!.next!.at) }}</strong>
        <span class="second small sub cut">“{{ aheadOf.get(row.id)!.next!.title }}”</span>
        <span class="second small sub">{{ sayPeople(aheadOf.get(row.id)!.next!.people) }}</span>
      </template>
      <span v-else-if="aheadOf.has(row.id)" class="second small">{{ row.stoppedAt !== null
        ? `None: ${sayNumber(row.inside)} wait` : row.status === 'draft' ? 'Not started' : 'None in 7 days' }}</span>
    </template>
    <template #after><CourseTemplates /></template>
    <NewCourse v-if="making" v-model:visible="making" />
  </ListPage>
</template>

<style scoped>
.name { font: 650 16px/1.35 var(--heading); color: var(--p-porch-ink); text-decoration: none; }
.name:hover { text-decoration: underline; }
.sub { display: block; }
.big { font: 650 18px/1.3 var(--heading); }
.when { white-space: nowrap; }
.cut { max-width: 150px; }
</style>
