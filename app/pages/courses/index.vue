<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { sayDay } from '#core/time/say'
import type { CourseLine } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { useMaking } from '~/composables/useMaking'
import { sayPeople } from '~/words/say'
import { useFrame } from '~/stores/frame'
import CourseTemplates from '~/components/course/CourseTemplates.vue'
import NameDialog from '~/components/NameDialog.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { data: courses, problem } = useFresh(() => api('GET /courses'))
const { shown, away, showsAway } = useShelf('course', () => courses.value)
const { makeCourse } = useMaking()
const making = ref(false)
const standing = computed(() => {
  if (!courses.value) return ''
  const running = courses.value.filter(course => course.status === 'running' && course.stoppedAt === null)
  return courses.value.length === 0
    ? 'Emails timed from the moment someone joins.'
    : `${running.length} running, ${sayPeople(running.reduce((sum, course) => sum + course.inside, 0))} inside.`
})
</script>

<template>
  <div>
    <PageHead title="Courses">
      {{ standing }}
      <template #actions><Button label="New course" @click="making = true" /></template>
    </PageHead>
    <ProblemNote :of="problem" />
    <section v-if="courses?.length" class="panel">
      <DataTable :value="shown" data-key="id" @row-click="({ data }) => navigateTo(`/courses/${data.id}`)">
        <Column header="Course">
          <template #body="{ data }: { data: CourseLine }">
            <NuxtLink :to="`/courses/${data.id}`"><strong>{{ data.name }}</strong></NuxtLink>
          </template>
        </Column>
        <Column header="Status">
          <template #body="{ data }: { data: CourseLine }">
            <span v-if="data.stoppedAt !== null" class="chip lamp">stopped since {{ sayDay(data.stoppedAt, frame.zone) }}</span>
            <span v-else class="chip" :class="{ spruce: data.status === 'running' }">
              {{ data.status === 'running' ? `running since ${sayDay(data.startedAt!, frame.zone)}` : 'not started' }}
            </span>
          </template>
        </Column>
        <Column header="Emails" header-class="number" body-class="number">
          <template #body="{ data }: { data: CourseLine }">
            {{ data.emails }}<span v-if="data.empty" class="second small">, {{ data.empty }} empty</span>
          </template>
        </Column>
        <Column header="Inside" header-class="number" body-class="number">
          <template #body="{ data }: { data: CourseLine }">
            <PeopleNumber :people="data.inside" :query="{ course: data.id, is: 'inside' }" />
          </template>
        </Column>
        <Column header="Started" header-class="number" body-class="number">
          <template #body="{ data }: { data: CourseLine }">
            <PeopleNumber :people="data.started" :query="{ course: data.id, is: 'started' }" />
          </template>
        </Column>
        <Column header="Finished" header-class="number" body-class="number">
          <template #body="{ data }: { data: CourseLine }">
            <PeopleNumber :people="data.finished" :query="{ course: data.id, is: 'finished' }" />
          </template>
        </Column>
        <Column header="Left" header-class="number" body-class="number">
          <template #body="{ data }: { data: CourseLine }">
            <PeopleNumber :people="data.left" :query="{ course: data.id, is: 'left' }" />
          </template>
        </Column>
      </DataTable>
      <ShelfSwitch v-model="showsAway" :away="away.length" />
    </section>
    <section v-else-if="courses" class="panel panel-body">
      <h2>Make the first course</h2>
      <p class="second">For example three emails: one at once with what was promised, one a day later, one on the third day at 08:00. You see the real dates for a sample joiner while you write.</p>
    </section>
    <CourseTemplates v-if="courses" class="copy" />
    <NameDialog
      v-model:visible="making" title="New course" label="Name of the email course" example="Five evenings, one book"
      action="Make the course" :make="makeCourse" />
  </div>
</template>

<style scoped>
.copy { margin-top: 16px; }
</style>
