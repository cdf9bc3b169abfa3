<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { sayShortDate } from '#core/time/say'
import type { SubscriberView } from '#core/views/people'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import ProblemNote from '~/components/ProblemNote.vue'

/** To-do about somebody; and saying that they replied, which house rules wake on. */
const props = defineProps<{ id: number, todos: SubscriberView['todos'] }>()
const emit = defineEmits<{ changed: [] }>()
const frame = useFrame()
const undo = useUndo()
const { busy, problem, attempt } = useAttempt()
const making = ref(false)
const text = ref('')
const days = ref(1)
const helper = ref('')

async function changed(work: () => Promise<unknown>) {
  if (!await attempt(work)) return
  making.value = false
  text.value = ''
  emit('changed')
  await frame.changed()
}
const add = () =>
  changed(() => api('POST /todos', { body: { personId: props.id, text: text.value, days: days.value, helper: helper.value } }))
async function finish({ id, text: what }: { id: number, text: string }) {
  await changed(() => api('POST /todos/:id/done', { at: { id } }))
  if (problem.value === null) undo.did({ said: `Done: ${what}`, undo: () => api('DELETE /todos/:id/done', { at: { id } }) })
}
const replied = () => changed(() => api('POST /subscribers/:id/replied', { at: { id: props.id } }))
</script>

<template>
  <section class="panel" aria-labelledby="todos-of">
    <div class="panel-head">
      <h2 id="todos-of">To do about them</h2>
      <span class="ways">
        <button type="button" class="link-button" @click="replied">They replied</button>
        <button type="button" class="link-button" @click="making = !making">A to-do</button>
      </span>
    </div>
    <form v-if="making" class="row make" @submit.prevent="add">
      <InputText
        v-model="text" size="small" maxlength="200" placeholder="for example: send the pattern by post" aria-label="To-do"
        class="words" />
      <span class="second small">in</span>
      <InputNumber
        v-model="days" :min="0" :max="365" :allow-empty="false" size="small" :suffix="days === 1 ? ' day' : ' days'"
        aria-label="Due in how many days" class="few" />
      <span class="second small">by</span>
      <InputText v-model="helper" size="small" maxlength="60" placeholder="me" aria-label="For whom" class="who" />
      <Button type="submit" label="Add it" size="small" :loading="busy" />
    </form>
    <ProblemNote :of="problem" at="text" whole class="row small" />
    <p v-for="todo in todos" :key="todo.id" class="row todo">
      <span :class="{ over: todo.doneAt !== null }">{{ todo.text }}<template v-if="todo.helper">, for {{ todo.helper }}</template></span>
      <span v-if="todo.doneAt !== null" class="second small">done</span>
      <template v-else>
        <span class="second small">by {{ sayShortDate(todo.dueOn) }}</span>
        <button type="button" class="link-button small" :aria-label="`Done: ${todo.text}`" @click="finish(todo)">Done</button>
      </template>
    </p>
    <p v-if="!todos.length && !making" class="panel-body second">Nothing.</p>
  </section>
</template>

<style scoped>
.ways { display: flex; gap: 14px; }
.make { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.words { flex: 1; min-width: 180px; }
.few :deep(input) { width: 80px; }
.who { width: 80px; }
.todo { display: flex; gap: 12px; align-items: baseline; }
.todo > :first-child { flex: 1; }
.over { text-decoration: line-through; color: var(--p-porch-ink-second); }
</style>
