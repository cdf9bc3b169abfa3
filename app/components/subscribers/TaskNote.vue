<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import { OUTCOME_WORDS } from '#core/people/task'
import type { Condition } from '#core/audience/condition'
import type { TaskView } from '#core/views/tasks'
import { api, hrefOf } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** How far something done to many has come, what happened, and taking it back. */
const props = withDefaults(defineProps<{ task: TaskView, closes?: boolean }>(), { closes: true })
const emit = defineEmits<{ begun: [task: TaskView], changed: [task: TaskView], close: [] }>()
const { busy, problem, attempt } = useAttempt()
const percent = computed(() => props.task.total === 0 ? 100 : Math.floor(100 * props.task.done / props.task.total))
const takeBack = () => attempt(async () => emit('begun', await api('POST /tasks/:id/back', { at: { id: props.task.id } })))
const stop = () => attempt(async () => emit('changed', await api('POST /tasks/:id/stop', { at: { id: props.task.id } })))
const title = computed(() => props.task.title[0]!.toUpperCase() + props.task.title.slice(1))
const many = computed(() => props.task.importId === null ? sayPeople(props.task.total) : saySome(props.task.total, 'row', 'rows'))
/** Rows that were refused, or came in without a part. */
const odd = computed(() => {
  const { importId, leftOut, outcomes } = props.task
  const any = leftOut > 0 || outcomes.some(({ outcome }) => outcome === 'refused')
  return importId !== null && any ? hrefOf('GET /imports/:id/refused', { at: { id: importId } }) : null
})
/** What was done, with its numbers, as the rest of a sentence. */
const did = computed(() => {
  const { state, done, outcomes, leftOut } = props.task
  const after = state === 'done' ? '' : ` after ${sayNumber(done)} of ${many.value}`
  const each = outcomes.map(({ people, outcome }) => `${sayNumber(people)} ${OUTCOME_WORDS[outcome]}`)
  const without = leftOut > 0 ? [`${sayNumber(leftOut)} of them without a cell that could not be read`] : []
  return `${END[state]}${after}: ${outcomes.length > 0 ? [...each, ...without].join('; ') : 'nothing was done'}.`
})
const came = computed(() => props.task.source !== null && props.task.changed > 0
  ? JSON.stringify({ kind: 'all', of: [{ kind: 'source', is: props.task.source }] } satisfies Condition)
  : null)
const END: Record<TaskView['state'], string> = { waiting: '', running: '', done: 'Done', stopped: 'Stopped', failed: 'It failed' }
</script>

<template>
  <div class="note task" role="status">
    <template v-if="task.endedAt === null">
      <p>
        <strong>{{ title }}</strong>: {{ task.state === 'waiting' ? 'starts in a moment' : `${sayNumber(task.done)} of ${many}` }}.
        <span class="second small">You can leave this page. The work continues.</span>
      </p>
      <ProgressBar :value="percent" :show-value="false" class="bar" :aria-label="title" />
      <Button v-if="task.canBeStopped" severity="secondary" size="small" label="Stop it" :loading="busy" @click="stop" />
    </template>
    <template v-else>
      <p class="said"><strong>{{ title }}</strong>. {{ did }}<span v-if="task.problem" class="problem"> {{ task.problem }}</span></p>
      <Button
        v-if="task.canBeTakenBack" severity="secondary" size="small" :label="`Undo for ${sayPeople(task.changed)}`" :loading="busy"
        @click="takeBack" />
      <span v-else-if="task.takenBackBy" class="second small">undone</span>
      <NuxtLink v-if="came" :to="{ path: '/subscribers', query: { where: came } }">Show the imported people</NuxtLink>
      <a v-if="odd" :href="odd" download="rows to look at.csv">
        {{ task.leftOut ? 'Download the rows to look at' : 'Download the refused rows' }}
      </a>
      <button v-if="closes" type="button" class="link-button" @click="emit('close')">Close</button>
    </template>
    <ProblemNote :of="problem" line class="small" />
  </div>
</template>

<style scoped>
.task { display: flex; align-items: center; gap: 14px; flex-wrap: wrap; margin-bottom: 12px; }
.bar { width: 180px; height: 8px; }
.said { flex: 1; min-width: 300px; }
</style>
