<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { datesFor } from '#core/sequence/dates'
import { emailsOf, programOf } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import type { Line } from '#core/message/content'
import { ALWAYS } from '#core/time/hours'
import { DAY } from '#core/time/zone'
import type { BroughtCourse } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** Templates to copy, and a course of a file. What comes of it is a draft. */
const frame = useFrame()
const { data: templates } = useFresh(() => api('GET /courses/templates'))
const { busy, problem, attempt } = useAttempt()
const input = ref<HTMLInputElement>()
const brought = ref<BroughtCourse | null>(null)
/** As somebody reads it whose name is not known. */
const asRead = (line: Line) => line.map(node => node.type === 'text' ? node.text : node.attrs.fallback).join('')
/** So many stand in a row; so many emails of each are named. */
const [IN_A_ROW, NAMED] = [4, 3]
const all = ref(false)
const cards = computed(() => templates.value?.map(({ key, name, reason, draft }) => {
  const steps = allSteps(draft.steps)
  const facts = { workspaceZone: 'UTC', personZone: null, hours: ALWAYS, dateOf: () => '2000-01-01' }
  const dates = new Map(datesFor(programOf(draft, () => 0), 0, facts).map(({ stepId, plannedAt }) => [stepId, plannedAt]))
  const emails = emailsOf(draft).map((email) => {
    const at = draft.dates ? null : dates.get(email.id) ?? null
    return { id: email.id, day: at === null ? 'by date' : `Day ${Math.floor(at / DAY)}`, subject: asRead(email.content.subject) }
  })
  return {
    key, name, reason, emails,
    what: [
      saySome(emails.length, 'email', 'emails'), ...[['hold', 'holds'], ['fork', 'forks']].flatMap(([one, many]) => {
        const count = steps.filter(({ kind }) => kind === one).length
        return count > 0 ? [saySome(count, one!, many!)] : []
      }), ...draft.dates ? ['by a personal date'] : [],
    ].join(', '),
  }
}) ?? [])
const shown = computed(() => all.value ? cards.value : cards.value.slice(0, IN_A_ROW))

async function take(work: () => Promise<BroughtCourse>) {
  brought.value = null
  await attempt(async () => {
    brought.value = await work()
    await frame.changed()
  })
  const done = brought.value as BroughtCourse | null
  if (done && done.made.length + done.lost.length === 0) await navigateTo(`/courses/${done.id}`)
}
const copy = (key: string, name: string) => take(() => api('POST /courses', { body: { name, beginning: { kind: 'template', key } } }))
async function bring() {
  const file = input.value?.files?.[0]
  if (file) await take(() => api('POST /courses/bring', { file }))
  if (input.value) input.value.value = ''
}
</script>

<template>
  <section aria-labelledby="templates" class="from">
    <header>
      <h2 id="templates">Start from a template</h2>
      <button v-if="cards.length > IN_A_ROW" type="button" class="link-button" :aria-expanded="all" @click="all = !all">
        {{ all ? 'Show fewer' : `All ${cards.length} templates` }}</button>
      <Button
        label="Import from a file" icon="pi pi-upload" severity="secondary" size="small" :loading="busy"
        title="A course exported from here: JSON, or a folder of Markdown files as ZIP" @click="input!.click()" />
      <input
        ref="input" type="file" accept=".json,.zip,application/json,application/zip" aria-label="A course as a file" hidden @change="bring"
      />
    </header>
    <ProblemNote :of="problem" first />
    <div v-if="brought" class="note" role="status">
      <p><strong>{{ brought.name }}</strong> is there as a draft. <NuxtLink :to="`/courses/${brought.id}`">Look at it</NuxtLink></p>
      <p v-if="brought.made.length" class="small">Made for it: {{ brought.made.join(', ') }}.</p>
      <p v-if="brought.lost.length" class="small">Not found here, so left out: {{ brought.lost.join(', ') }}.</p>
    </div>
    <ul>
      <li v-for="card in shown" :key="card.key" class="panel" :title="card.reason">
        <div class="head">
          <h3>{{ card.name }}</h3>
          <button
            type="button" class="link-button" :aria-label="`Copy the course: ${card.name}`" :disabled="busy"
            @click="copy(card.key, card.name)">Copy</button>
        </div>
        <p class="second small">{{ card.what }}</p>
        <ol>
          <li v-for="email in card.emails.slice(0, NAMED)" :key="email.id">
            <span class="second small">{{ email.day }}</span><span class="post" aria-hidden="true" />
            <span class="small cut" :title="email.subject">“{{ email.subject }}”</span>
          </li>
        </ol>
        <p v-if="all" class="second small">{{ card.reason }}</p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.from { display: grid; gap: 10px; }
header { display: flex; align-items: center; gap: 14px; }
header h2 { flex: 1; }
.from > ul {
  display: grid; grid-template-columns: repeat(auto-fill, minmax(232px, 1fr)); gap: 16px; margin: 0; padding: 0; list-style: none;
}
.from > ul > li { display: grid; gap: 4px; align-content: start; padding: 12px 14px; }
.head { display: flex; align-items: baseline; gap: 8px; }
.head h3 { flex: 1; font-weight: 650; }
ol { display: grid; gap: 3px; margin: 4px 0 0; padding: 0; list-style: none; }
ol > li { display: grid; grid-template-columns: 46px 8px minmax(0, 1fr); gap: 8px; align-items: baseline; position: relative; }
.post { width: 7px; height: 7px; border-radius: 50%; background: var(--p-send-course); }
ol > li:not(:last-child) .post::after {
  content: ''; position: absolute; left: 57px; top: 16px; bottom: -9px; width: 1.5px; background: var(--p-porch-line);
}
</style>
