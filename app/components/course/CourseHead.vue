<script setup lang="ts">
import Button from 'primevue/button'
import { sayMoment } from '#core/time/say'
import { sayPeople, saySome } from '#core/stats/say'
import type { CourseView } from '#core/views/course'
import { useCourseSwitch } from '~/composables/useCourseSwitch'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import ThingActions from '~/components/ThingActions.vue'

/** The head of a course: its status and numbers, what can be done with all of it, and what its owner should know first. */
const props = defineProps<{
  course: CourseView, name: string, zone: string
  /** What forbids that it is started or published, as far as no step is meant. */
  problems: string[], reload: () => Promise<void>, flush: () => Promise<boolean>
}>()
const emit = defineEmits<{ /** To be started or published. */ ask: [], addEmail: [], fixExample: [] }>()
const { busy, problem, stop, resume, remove } = useCourseSwitch(props.course.id, {
  name: () => props.name, inside: () => props.course.counts.inside, reload: props.reload, flush: props.flush,
})
const COUNTS = ['inside', 'started', 'finished', 'left'] as const
</script>

<template>
  <div>
    <PageHead :title="name" :back="{ to: '/courses', name: 'Courses' }">
      <template v-if="course.status === 'running'">Email course, {{ course.stoppedAt === null ? 'running' : 'stopped' }}. <template
        v-for="(is, n) in COUNTS" :key="is">{{ n > 0 ? ', ' : '' }}<PeopleNumber
        :people="course.counts[is]" :query="{ course: course.id, is }"
        :words="is === 'inside' ? sayPeople(course.counts.inside) : undefined" />
        {{ is }}</template>.</template>
      <template v-else>Email course, not started: nothing is sent yet.</template>
      {{ ' ' }}<slot name="saved" />
      <template #actions>
        <ThingActions kind="course" :id="course.id" :to="one => `/courses/${one}`" />
        <Button severity="secondary" icon="pi pi-trash" aria-label="Delete this course" title="Delete this course" @click="remove" />
        <Button
          v-if="course.status === 'running' && course.stoppedAt === null" label="Stop the course" severity="secondary" @click="stop" />
        <Button label="Add an email" severity="secondary" @click="emit('addEmail')" />
        <Button v-if="course.status === 'draft'" id="start" data-opens label="Start the course" @click="emit('ask')" />
        <Button v-else-if="course.hasChanges" id="publish" data-opens label="Publish the changes" @click="emit('ask')" />
      </template>
    </PageHead>

    <p v-for="text in problems" :key="text" class="note brick" role="alert">{{ text }}</p>
    <div v-if="course.stoppedAt !== null" class="note row">
      <p>
        Stopped since {{ sayMoment(course.stoppedAt, zone) }}. No emails go out, and waiting times are paused.
        <template v-if="course.waitingToEnter > 0">{{ sayPeople(course.waitingToEnter) }} tried to join since then and will join when you
          resume.</template>
      </p>
      <Button id="resume" label="Resume the course" size="small" :loading="busy" @click="resume" />
    </div>
    <ProblemNote :of="problem" />
    <p
      v-if="course.status === 'running' && course.hasChanges" class="note">There are changes that readers don’t get yet. They get the
      published version until you publish.</p>
    <div v-if="course.examples.length" class="note lamp row">
      <p>{{ saySome(course.examples.length, 'email has', 'emails have') }} links to example addresses, such as
        <span class="mono">{{ course.examples[0]!.urls[0] }}</span>. Readers who click would find nothing.</p>
      <Button label="Fix the first one" size="small" severity="secondary" @click="emit('fixExample')" />
    </div>
  </div>
</template>

<style scoped>
.note { margin-bottom: 12px; }
.row { display: flex; align-items: center; gap: 16px; justify-content: space-between; }
</style>
