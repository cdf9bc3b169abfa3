<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import type { MessageContent, RichText } from '#core/message/content'
import type { EmailPartLine } from '#core/views/email'
import { saySome } from '#core/stats/say'
import { api } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { useEnding } from '~/stores/ending'
import { useUndo } from '~/stores/undo'
import EmailLibrary from '~/components/email/EmailLibrary.vue'
import LookPanel from '~/components/email/LookPanel.vue'
import MiniEmail from '~/components/email/MiniEmail.vue'
import PageHead from '~/components/PageHead.vue'
import PartTabs from '~/components/PartTabs.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/** What emails are made of: parts that stand in several, emails to begin with, and how they look. */
const PartDialog = whenNeeded(() => import('~/components/email/PartDialog.vue'))
const { data: parts, problem, load } = useFresh(() => api('GET /email-parts'))
const { data: templates, load: loadTemplates } = useFresh(() => api('GET /email-templates'))
const { tags } = useMarks()
const { values, set } = useAddress({ at: 'parts', part: '' })
const TABS = [
  { value: 'parts', name: 'Parts' }, { value: 'emails', name: 'All emails' }, { value: 'templates', name: 'Templates' },
  { value: 'look', name: 'Look' },
]
const open = ref<EmailPartLine | 'new' | null>(null)
watch([() => values.value.part, parts], () => {
  if (values.value.part) open.value = parts.value?.find(({ id }) => String(id) === values.value.part) ?? open.value
}, { immediate: true })
function close() {
  open.value = null
  void set({ part: '' })
}
async function done() {
  close()
  await load()
}
const ofPart = (body: RichText): MessageContent => ({ workingTitle: '', subject: [], preview: [], body })
const placesOf = ({ uses }: EmailPartLine) => new Set(uses.map(({ kind, id }) => `${kind} ${id}`)).size
const standing = computed(() => parts.value === null ? '' : parts.value.length === 0
  ? 'Write a signature or a row of links once, and show it in every email.'
  : `${saySome(parts.value.length, 'part', 'parts')}, shown in ${saySome(parts.value.reduce((sum, part) => sum + placesOf(part), 0), 'place', 'places')}.`)

const ending = useEnding()
const deleteIt = (part: EmailPartLine) => ending.ask({
  thing: { kind: 'part', id: part.id }, header: `Delete “${part.name}”?`, acceptLabel: 'Delete the part',
  message: 'Nothing stands in its place then, in emails that are not sent yet. What was sent stays as it was.',
  accept: async () => {
    await api('DELETE /email-parts/:id', { at: { id: part.id } })
    await load()
  },
})
const undo = useUndo()
const { attempt, problem: templateProblem } = useAttempt()
async function forget({ key, name, content }: { key: string, name: string, content: MessageContent }) {
  if (!await attempt(() => api('DELETE /email-templates/:id', { at: { id: Number(key) } }))) return
  await loadTemplates()
  undo.did({ said: `“${name}” is deleted.`, undo: async () => {
    await api('POST /email-templates', { body: { name, content } })
    await loadTemplates()
  } })
}
</script>

<template>
  <div>
    <PageHead title="Email parts" how="email-part">
      {{ standing }}
      <template #actions><Button label="New part" @click="open = 'new'" /></template>
    </PageHead>
    <ProblemNote :of="problem" />
    <PartTabs :parts="TABS" :chosen="values.at" label="Email parts" :wanting="() => false" @choose="at => set({ at })" />
    <ul v-if="values.at === 'parts' && parts" class="cards">
      <li v-for="part in parts" :key="part.id" class="panel">
        <button type="button" class="see" :aria-label="`Change ${part.name}`" @click="set({ part: String(part.id) })">
          <MiniEmail :content="ofPart(part.body)" :list-id="null" kind="course" />
        </button>
        <div class="foot">
          <strong class="cut">{{ part.name }}</strong>
          <span class="second small">{{ placesOf(part) === 0
            ? 'in no email yet' : `in ${saySome(placesOf(part), 'place', 'places')}` }}</span>
          <button type="button" class="link-button" :aria-label="`Delete ${part.name}`" @click="deleteIt(part)">
            <i class="pi pi-trash" aria-hidden="true" /></button>
        </div>
      </li>
      <li v-if="parts.length === 0" class="none">
        <p>A part is a piece of email that you write once: your signature, where you can be found, a row of links. Type “/” in any email
          to show it there.</p>
        <Button label="Write the first one" severity="secondary" @click="open = 'new'" />
      </li>
    </ul>
    <ul v-else-if="values.at === 'templates' && templates" class="cards">
      <li v-for="one in templates" :key="one.key" class="panel">
        <MiniEmail :content="one.content" :list-id="null" kind="course" />
        <div class="foot">
          <strong class="cut">{{ one.name }}</strong>
          <button v-if="one.isOwn" type="button" class="link-button" :aria-label="`Delete ${one.name}`" @click="forget(one)">
            <i class="pi pi-trash" aria-hidden="true" /></button>
        </div>
        <p class="second small reason">{{ one.isOwn ? 'Yours.' : one.reason }}</p>
      </li>
    </ul>
    <EmailLibrary v-else-if="values.at === 'emails'" />
    <LookPanel v-else-if="values.at === 'look'" />
    <ProblemNote :of="templateProblem" />
    <PartDialog
      v-if="open" :key="open === 'new' ? 'new' : open.id" :part="open === 'new' ? null : open" :tags="tags" @done="done" @close="close" />
  </div>
</template>

<style scoped>
.cards { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(280px, 1fr)); gap: 16px; }
.cards :deep(.mini) { height: 200px; border: 0; border-bottom: 1px solid var(--p-porch-line); border-radius: 8px 8px 0 0; }
.see { display: block; width: 100%; padding: 0; border: 0; background: none; text-align: left; cursor: pointer; }
.foot { display: flex; gap: 8px; align-items: baseline; padding: 8px 14px; }
.foot strong { flex: 1; min-width: 0; }
.reason { padding: 0 14px 10px; }
.none { grid-column: 1 / -1; max-width: 460px; display: grid; gap: 10px; justify-items: start; }
</style>
