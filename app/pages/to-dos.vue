<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import { sayMoment, sayShortDate } from '#core/time/say'
import type { TodoLine } from '#core/views/desk'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What is to be done about people, and what rules wanted you to know. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: desk, problem, load } = useFresh(() => api('GET /desk'))
const { problem: refused, attempt } = useAttempt()
const undo = useUndo()

const due = ({ late, dueOn }: TodoLine) =>
  late > 0 ? `${saySome(late, 'day', 'days')} late` : late === 0 ? 'today' : late === -1 ? 'tomorrow' : `by ${sayShortDate(dueOn)}`
const standing = computed(() => {
  if (!desk.value) return ''
  const { open, unseen } = desk.value
  const late = open.filter(todo => todo.late > 0).length
  return `${open.length === 0 ? 'Nothing to do' : `${saySome(open.length, 'to-do', 'to-dos')}${late ? `, ${late} late` : ''}`}. ${unseen === 0 ? 'No new notices' : saySome(unseen, 'new notice', 'new notices')}.`
})
async function finish({ id, text }: TodoLine) {
  if (await attempt(() => api('POST /todos/:id/done', { at: { id } }))) {
    undo.did({ said: `Done: ${text}`, undo: () => api('DELETE /todos/:id/done', { at: { id } }) })
  }
  await Promise.all([load(), frame.changed()])
}
async function see() {
  await attempt(() => api('POST /notices/seen', { body: { upTo: Math.max(...desk.value!.notices.map(({ id }) => id)) } }))
  await Promise.all([load(), frame.changed()])
}
</script>

<template>
  <div>
    <PageHead title="To-dos and notices" how="to-do">{{ standing }}</PageHead>
    <ProblemNote :of="problem ?? refused" />
    <div v-if="desk" class="columns two">
      <div class="stack">
        <section class="panel" aria-labelledby="open">
          <h2 id="open">To do</h2>
          <div v-for="todo in desk.open" :key="todo.id" class="row todo">
            <Button
              label="Done" size="small" severity="secondary" :aria-label="`Done: ${todo.text}, ${todo.person.name}`"
              @click="finish(todo)" />
            <p>
              <strong>{{ todo.text }}</strong>
              <span class="second">: <NuxtLink :to="`/subscribers/${todo.person.id}`">{{ todo.person.name }}</NuxtLink><template
                v-if="todo.helper">, for {{ todo.helper }}</template></span>
              <NuxtLink v-if="todo.ruleId" :to="`/house-rules/${todo.ruleId}`" class="small second by">by a house rule</NuxtLink>
            </p>
            <span class="due small" :class="{ late: todo.late > 0 }">{{ due(todo) }}</span>
          </div>
          <p
            v-if="!desk.open.length" class="panel-body second">Nothing to do. House rules can add to-dos, like “ask whether something was
            unclear” when someone goes to pay and does not. You can add one on a subscriber’s page, too.</p>
        </section>
        <section v-if="desk.done.length" class="panel" aria-labelledby="done">
          <h2 id="done">Done</h2>
          <p v-for="todo in desk.done" :key="todo.id" class="row done">
            <span>{{ todo.text }}: <NuxtLink :to="`/subscribers/${todo.person.id}`">{{ todo.person.name }}</NuxtLink></span>
            <span class="second small">{{ sayMoment(todo.doneAt!, zone) }}</span>
          </p>
        </section>
      </div>
      <section class="panel" aria-labelledby="notices">
        <div class="panel-head">
          <h2 id="notices">Notices</h2>
          <button v-if="desk.unseen" type="button" class="link-button" @click="see">Mark all as seen</button>
        </div>
        <p v-for="notice in desk.notices" :key="notice.id" class="row notice" :class="{ fresh: !notice.seen }">
          <span>{{ notice.text }}: <NuxtLink :to="`/subscribers/${notice.person.id}`">{{ notice.person.name }}</NuxtLink></span>
          <span class="second small">
            {{ sayMoment(notice.at, zone) }}, by
            <NuxtLink v-if="notice.ruleId" :to="`/house-rules/${notice.ruleId}`">a house rule</NuxtLink>
            <template v-else>a course</template>
          </span>
        </p>
        <p v-if="!desk.notices.length" class="panel-body second">No notices yet. A house rule can tell you when something happens: here,
          by email at once, or in one email a day.</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr); }
.todo { display: grid; grid-template-columns: auto minmax(0, 1fr) auto; gap: 12px; align-items: center; }
.by { display: block; }
.due { white-space: nowrap; color: var(--p-porch-ink-second); }
.due.late { color: var(--p-porch-brick); font-weight: 600; }
.done { display: flex; justify-content: space-between; gap: 12px; }
.notice { display: grid; gap: 2px; }
.fresh { box-shadow: inset 3px 0 0 var(--p-porch-door); }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
