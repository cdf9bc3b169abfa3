<script setup lang="ts">
import { computed, ref } from 'vue'
import InputText from 'primevue/inputtext'
import type { CourseDraft } from '#core/sequence/draft'
import type { WeekHours as Hours } from '#core/time/hours'
import { sayHours } from '#core/time/say'
import type { CourseView } from '#core/views/course'
import SelectField from '~/components/SelectField.vue'
import WeekHours from '~/components/WeekHours.vue'
import type { ApiProblem } from '~/composables/useApi'
import ProblemNote from '~/components/ProblemNote.vue'

/** What a course is called, which list it belongs to, how people come in, and when its emails may leave. */
const typed = defineModel<{ name: string, draft: CourseDraft }>({ required: true })
const props = defineProps<{
  course: CourseView
  lists: { id: number, name: string, publicName: string }[]
  /** In words; leads to where it is set. */
  wayIn: string
  /** When its emails may leave: in its own half-hours, and only in the workspace's. */
  hours: Hours
  /** Whether it was asked to be started, and what is missing is shown. */
  asked: boolean
  problem: ApiProblem | null
}>()
defineEmits<{ entries: [] }>()

const narrowing = ref(false)
const publicName = computed(() => props.lists.find(({ id }) => id === typed.value.draft.listId)?.publicName)
</script>

<template>
  <div>
    <section class="panel about" aria-label="Name and list">
      <div class="field">
        <label for="course-name">Name</label>
        <InputText id="course-name" v-model="typed.name" maxlength="120" :invalid="!!problem?.of('name')" />
      </div>
      <div class="field">
        <label for="course-public">Readers see it as</label>
        <InputText
          id="course-public" :model-value="typed.draft.publicName ?? ''" maxlength="80" :placeholder="publicName"
          @update:model-value="value => typed.draft.publicName = value || undefined" />
      </div>
      <SelectField
        v-model="typed.draft.listId" label="Belongs to the list" :options="lists.map(list => ({ name: list.name, value: list.id }))"
        placeholder="choose a list" :invalid="asked && typed.draft.listId === null" />
      <div class="field">
        <span class="label">How people join</span>
        <p class="door-words"><button type="button" class="link-button" @click="$emit('entries')">{{ wayIn }}</button></p>
      </div>
    </section>

    <p class="hours small">
      <span class="second">Its emails leave {{ sayHours(hours) }}.</span>
      {{ ' ' }}<button type="button" class="link-button small" :aria-expanded="narrowing" @click="narrowing = !narrowing">
        {{ narrowing ? 'Close' : typed.draft.hours ? 'Its own hours' : 'Set its own hours' }}
      </button>
    </p>
    <section v-if="narrowing" class="panel panel-body narrow" aria-label="Hours of this course">
      <WeekHours
        :model-value="typed.draft.hours ?? course.hours" label="Hours of this course" :within="course.hours"
        @update:model-value="next => typed.draft.hours = next === course.hours ? null : next" />
      <p class="second small">
        Only within the sending hours of the workspace, which are in <NuxtLink to="/settings">Settings</NuxtLink>.
        <button v-if="typed.draft.hours" type="button" class="link-button small" @click="typed.draft.hours = null">
          Use the workspace’s hours
        </button>
      </p>
      <ProblemNote :of="problem" at="hours" class="small" />
    </section>
  </div>
</template>

<style scoped>
.narrow { max-width: 760px; margin-bottom: 12px; }
.hours { margin: -4px 0 10px; }
.about { display: grid; grid-template-columns: 1.1fr 1fr 1fr 1.3fr; gap: 14px; padding: 12px 14px; margin-bottom: 12px; }
.door-words { min-height: 34px; display: flex; align-items: center; }
.door-words .link-button { text-align: left; }
@media (max-width: 1000px) { .about { grid-template-columns: 1fr 1fr; } }
</style>
