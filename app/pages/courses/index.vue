<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayDay } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayPeople } from '~/words/say'
import { useFrame } from '~/stores/frame'
import CourseTemplates from '~/components/course/CourseTemplates.vue'
import NewCourse from '~/components/course/NewCourse.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ListPage from '~/components/ListPage.vue'
import type { PlainColumn } from '~/components/PlainTable.vue'

const frame = useFrame()
const { data: courses, problem } = useFresh(() => api('GET /courses'))
const making = ref(false)
const standing = computed(() => {
  if (!courses.value) return ''
  const running = courses.value.filter(course => course.status === 'running' && course.stoppedAt === null)
  return courses.value.length === 0
    ? 'Emails timed from the moment someone joins.'
    : `${running.length} running, ${sayPeople(running.reduce((sum, course) => sum + course.inside, 0))} inside.`
})

const NUMBERS = ['inside', 'started', 'finished', 'left'] as const
const COLUMNS: PlainColumn[] = [
  { key: 'course', head: 'Course' }, { key: 'status', head: 'Status' }, { key: 'emails', head: 'Emails', class: 'number' },
  { key: 'inside', head: 'Inside', class: 'number' }, { key: 'started', head: 'Started', class: 'number' },
  { key: 'finished', head: 'Finished', class: 'number' }, { key: 'left', head: 'Left', class: 'number' },
]
</script>

<template>
  <ListPage
    title="Courses" :standing="standing" kind="course" :rows="courses" :problem="problem" :columns="COLUMNS" to="/courses"
    :find="{ by: ({ name }) => [name], words: 'a name' }">
    <template #actions><Button id="new-course" data-opens label="New course" @click="making = true" /></template>
    <template #none>
      <h2>Make the first course</h2>
      <p class="second">For example three emails: one at once with what was promised, one a day later, one on the third day at 08:00. You see the real dates for a sample joiner while you write.</p>
    </template>
    <template #course="{ row }"><NuxtLink :to="`/courses/${row.id}`"><strong>{{ row.name }}</strong></NuxtLink></template>
    <template #status="{ row }">
      <span v-if="row.stoppedAt !== null" class="chip lamp">stopped since {{ sayDay(row.stoppedAt, frame.zone) }}</span>
      <span v-else class="chip" :class="{ spruce: row.status === 'running' }">
        {{ row.status === 'running' ? `running since ${sayDay(row.startedAt!, frame.zone)}` : 'not started' }}
      </span>
    </template>
    <template #emails="{ row }">{{ row.emails }}<span v-if="row.empty" class="second small">, {{ row.empty }} empty</span></template>
    <template v-for="number in NUMBERS" :key="number" #[number]="{ row }">
      <PeopleNumber :people="row[number]" :query="{ course: row.id, is: number }" />
    </template>
    <template #after><CourseTemplates /></template>
    <NewCourse v-model:visible="making" />
  </ListPage>
</template>
