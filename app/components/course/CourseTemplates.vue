<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { emailsOf } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import { plainLine } from '#core/message/content'
import type { BroughtCourse } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '~/words/say'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** Finished courses to copy, and a course of a file. What comes of it is a draft. */
const frame = useFrame()
const { data: templates } = useFresh(() => api('GET /courses/templates'))
const { busy, problem, attempt } = useAttempt()
const input = ref<HTMLInputElement>()
const brought = ref<BroughtCourse | null>(null)
const shown = computed(() => templates.value?.map(({ key, name, reason, draft }) => {
  const steps = allSteps(draft.steps)
  return {
    key, name, reason, emails: emailsOf(draft), holds: steps.filter(({ kind }) => kind === 'hold').length,
    forks: steps.filter(({ kind }) => kind === 'fork').length, byDate: draft.dates !== undefined,
  }
}) ?? [])
const what = ({ emails, holds, forks, byDate }: typeof shown.value[number]) => [
  saySome(emails.length, 'email', 'emails'), ...holds ? [saySome(holds, 'hold', 'holds')] : [],
  ...forks ? [saySome(forks, 'fork', 'forks')] : [], ...byDate ? ['by a date of theirs'] : [],
].join(', ')

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
  <section class="panel panel-body" aria-labelledby="templates">
    <div class="head">
      <h2 id="templates">Finished courses to copy</h2>
      <Button
        label="Import from a file" icon="pi pi-upload" severity="secondary" size="small" :loading="busy" @click="input!.click()" />
      <input
        ref="input" type="file" accept=".json,.zip,application/json,application/zip" aria-label="A course as a file" hidden @change="bring"
      />
    </div>
    <p class="second small">Templates have real words for you to change. A file is a course exported from here: JSON, or a folder of
      Markdown files as ZIP.</p>
    <ProblemNote :of="problem" first />
    <div v-if="brought" class="note" role="status">
      <p><strong>{{ brought.name }}</strong> stands there as a draft. <NuxtLink :to="`/courses/${brought.id}`">Look at it</NuxtLink></p>
      <p v-if="brought.made.length" class="small">Made for it: {{ brought.made.join(', ') }}.</p>
      <p v-if="brought.lost.length" class="small">Not here, and left out where it was named: {{ brought.lost.join(', ') }}.</p>
    </div>
    <ul class="templates">
      <li v-for="template in shown" :key="template.key">
        <div class="head">
          <h3>{{ template.name }}</h3>
          <span class="second small">{{ what(template) }}</span>
          <Button
            label="Copy it" size="small" severity="secondary" :aria-label="`Copy the course: ${template.name}`" :disabled="busy"
            @click="copy(template.key, template.name)" />
        </div>
        <p class="second">{{ template.reason }}</p>
        <p class="small second subjects">{{ template.emails.map(({ content }) => `“${plainLine(content.subject)}”`).join(' · ') }}</p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 12px; }
.head h2, .head h3 { flex: 1; }
.templates { list-style: none; margin: 6px 0 0; padding: 0; display: grid; }
.templates > li { display: grid; gap: 3px; padding: 10px 0; border-top: 1px solid var(--p-porch-line-light); }
.subjects { overflow-wrap: anywhere; }
</style>
