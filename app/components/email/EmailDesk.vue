<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { kindOf, type EmailKind, type SendOf } from '#core/sending/kinds'
import type { WrittenEmail } from '#core/views/email'
import type { Spot } from '#core/message/checks/check'
import { asksOf, isWritten } from '#core/message/blocks'
import { DEFAULT_LOOK, type EmailLook } from '#core/message/look'
import { readLine, type MessageContent, type RichText } from '#core/message/content'
import { api } from '~/composables/useApi'
import { useEmailParts } from '~/composables/useEmailParts'
import { provideOwnFacts } from '~/composables/useFacts'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import LineEditor from '~/components/LineEditor.vue'
import NameDialog from '~/components/NameDialog.vue'
import { whenNeeded } from '~/components/whenNeeded'
import { invented, useVersions } from '~/composables/useVersions'
import ChecksPanel from './ChecksPanel.vue'
import EmailCanvas from './EmailCanvas.vue'
import EmailViews, { type View } from './EmailViews.vue'
import PreviewAs from './PreviewAs.vue'
import ExtrasPanel from './ExtrasPanel.vue'
import FromLine from './FromLine.vue'
import SubjectCases from './SubjectCases.vue'
import TestDialog from './TestDialog.vue'

const SubjectBench = whenNeeded(() => import('./SubjectBench.vue'))
const EarlierDialog = whenNeeded(() => import('./EarlierDialog.vue'))
const TemplateDialog = whenNeeded(() => import('./TemplateDialog.vue'))

/** Where an email of any kind is written, and looked at as it will arrive. */
const mail = defineModel<MessageContent>({ required: true })
const props = defineProps<{
  kind: EmailKind, /** It has a button of its own. */ own?: boolean, listId: number | null, tags: { id: number, name: string }[]
  /** What it is an email of, where that is there already; and which step of a course. */
  ownerId?: number | null, stepId?: string | null
  /** By what its earlier versions are known. */
  earlierOf?: SendOf | null
}>()

const frame = useFrame()
type Side = 'write' | View | 'all'
const SIDES: { value: Side, name: string }[] = [
  { value: 'write', name: 'Write' }, { value: 'desktop', name: 'Computer' }, { value: 'phone', name: 'Phone' },
  { value: 'dark', name: 'Dark' },
  { value: 'plain', name: 'No pictures' }, { value: 'text', name: 'Text' }, { value: 'all', name: 'All' },
]
const side = ref<Side>('write')
const views = computed<View[]>(() => side.value === 'all' ? ['desktop', 'phone', 'dark', 'plain', 'text'] : [side.value as View])
const set = (change: Partial<MessageContent>) => mail.value = { ...mail.value, ...change }
const of = computed(() => kindOf(props.kind).owner === 'course' && props.ownerId && props.stepId
  ? { courseId: props.ownerId, stepId: props.stepId }
  : null)
const earlier = computed<SendOf | null>(() =>
  of.value ? { kind: 'course', ownerId: of.value.courseId, itemId: of.value.stepId } : props.earlierOf ?? null)
const testing = ref(false)
/* Subjects that were thought of, while the email is open. */
const trying = ref(false)
const tried = ref<MessageContent['subject'][]>([])
const { parts, offers, isLoaded, whole, keep: keepPart } = useEmailParts()
provideOwnFacts()
const look = ref<EmailLook>(DEFAULT_LOOK)
onMounted(async () => look.value = await api('GET /email-look').catch(() => DEFAULT_LOOK))
const STYLES = [{ value: false, name: 'Designed' }, { value: true, name: 'Letter' }]

/* Templates */

const beginning = ref(false)
const keeping = ref(false)
const comparing = ref(false)
const undo = useUndo()
let isGone = false
onBeforeUnmount(() => isGone = true)
/** What stood there can be taken again, as long as the email is open. */
function replace(content: MessageContent, said: string) {
  const before = mail.value
  mail.value = content
  if (!isWritten(before)) return
  undo.did({ said, async undo() {
    if (isGone) throw new Error('This email is no longer open. Nothing was undone.')
    mail.value = before
  } })
}
/** What is its own stays: what it is called here, who it is from, and that it sells nothing. */
function begin({ callToAction, isLetter, senderId: _, ...content }: MessageContent) {
  const { workingTitle, sellsNothing, senderId } = mail.value
  replace({
    ...content, workingTitle, ...sellsNothing && { sellsNothing }, ...senderId && { senderId },
    ...callToAction && { callToAction }, ...isLetter && { isLetter },
  }, 'The template is in place.')
}
const keepTemplate = async (name: string) => {
  await api('POST /email-templates', { body: { name, content: whole(mail.value) } })
}
/* A block becomes a part */

const partAt = ref<number | null>(null)
async function keepBlock(name: string) {
  const at = partAt.value!
  const partId = await keepPart(name, canvas.value!.blockOf(at))
  canvas.value!.asPart(at, partId)
}
const canvas = ref<InstanceType<typeof EmailCanvas>>()
const lines = ref<HTMLElement>()
const notes = shallowRef(new Map<string, string>())
function go(spot: Spot) {
  if (typeof spot === 'object') canvas.value?.goTo(spot.blockId)
  else lines.value?.querySelectorAll<HTMLElement>('[role=textbox]')[spot === 'subject' ? 0 : 1]?.focus()
}
const about = () => ({ kind: props.kind, listId: props.listId, ownerId: props.ownerId ?? null })
const written = computed<WrittenEmail>(() => ({ ...about(), content: mail.value }))
const { versions, problem, reader, at, step, chosen } = useVersions(mail, () => ({ ...about(), stepId: props.stepId ?? null }))
if (kindOf(props.kind).because === 'confirm') reader.value = invented('')
const sights = computed(() => new Map(
  versions.value?.choices.flatMap(({ blockId, ...sight }) => blockId === null ? [] : [[blockId, sight]]),
))
const ofSubject = computed(() => versions.value?.choices.find(({ key }) => key === 'subject'))
/* Whoever is looked at as somebody sees what that person gets, while writing, too. */
watch([chosen, canvas], () => {
  if (!chosen.value || !versions.value) return
  const { choices } = versions.value
  canvas.value?.showVersions(new Map(choices.flatMap(({ blockId }, n) => blockId === null ? [] : [[blockId, chosen.value![n]!]])))
})
const letters = (line: MessageContent['subject']) => [...readLine(line)].length
</script>

<template>
  <div class="fields">
    <FromLine :model-value="mail.senderId ?? null" :list-id="listId" @update:model-value="id => set({ senderId: id ?? undefined })" />
    <div ref="lines" class="lines">
      <div class="field">
        <span class="label">Subject <span class="second small">{{ letters(mail.subject) }} characters</span></span>
        <LineEditor :model-value="mail.subject" label="Subject" :list-id="listId" @update:model-value="subject => set({ subject })" />
        <button type="button" class="link-button small start" @click="trying = true">Try several subjects</button>
        <SubjectCases
          :model-value="mail.subjectFor ?? []" :sight="ofSubject" :list-id="listId"
          @update:model-value="cases => set({ subjectFor: cases.length > 0 ? cases : undefined })" />
      </div>
      <div class="field">
        <span class="label">Preview text, shown after the subject
          <span class="second small">{{ letters(mail.preview) }} characters</span></span>
        <LineEditor :model-value="mail.preview" label="Preview text" :list-id="listId" @update:model-value="preview => set({ preview })" />
      </div>
      <div class="field">
        <label for="desk-title">Working title; readers never see it</label>
        <InputText
          id="desk-title" :model-value="mail.workingTitle" maxlength="120"
          @update:model-value="workingTitle => set({ workingTitle: workingTitle ?? '' })" />
      </div>
      <div class="field">
        <label for="desk-asks">Call to action</label>
        <InputText
          id="desk-asks" :model-value="mail.callToAction ?? ''" maxlength="80"
          :placeholder="asksOf({ ...mail, callToAction: '' })[0] ?? 'none'"
          @update:model-value="asks => set({ callToAction: asks || undefined })" />
      </div>
    </div>
    <div class="views">
      <SelectButton
        v-model="side" :options="SIDES" option-label="name" option-value="value" :allow-empty="false" size="small"
        aria-label="Write it, or see how it arrives" />
      <div class="acts">
        <SelectButton
          :model-value="mail.isLetter === true" :options="STYLES" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="How it looks" @update:model-value="(letter: boolean) => set({ isLetter: letter || undefined })" />
        <Button
          v-if="!own" icon="pi pi-copy" size="small" severity="secondary" aria-label="Begin with a template" title="Begin with a template"
          @click="beginning = true" />
        <Button
          v-if="earlier" icon="pi pi-history" size="small" severity="secondary" aria-label="Earlier versions" title="Earlier versions"
          @click="comparing = true" />
        <Button
          icon="pi pi-bookmark" size="small" severity="secondary" aria-label="Keep as a template" title="Keep as a template"
          @click="keeping = true" />
        <Button label="Send me a copy" icon="pi pi-send" size="small" severity="secondary" @click="testing = true" />
      </div>
    </div>
    <EarlierDialog
      v-if="comparing && earlier" v-model:visible="comparing" :of="earlier" :now="mail"
      @take="content => replace(content, 'The earlier version is in place.')" />
    <TemplateDialog v-if="beginning" v-model:visible="beginning" :replaces="isWritten(mail)" @take="begin" />
    <NameDialog
      v-model:visible="keeping" title="Keep as a template" label="Name (only you see it)" example="My Thursday letter" action="Keep it"
      :make="keepTemplate" />
    <NameDialog
      :visible="partAt !== null" title="Keep as a part" label="Name (only you see it)" example="Signature" action="Keep it"
      :make="keepBlock"
      @update:visible="(open: boolean) => { if (!open) partAt = null }">
      <p class="second small">It then stands here as a part. Change the part, and every email that shows it changes, if it is not sent
        yet.</p>
    </NameDialog>
    <SubjectBench
      v-if="trying" v-model:visible="trying" :subject="mail.subject" :preview="mail.preview" :kept="tried"
      :sender-id="mail.senderId ?? null" :list-id="listId" @keep="lines => tried = lines"
      @take="subject => replace({ ...mail, subject }, 'The subject is in place.')" />
    <TestDialog v-if="testing" v-model:visible="testing" :email="written" :reader="reader" :versions="versions" />
    <EmailCanvas
      v-if="side === 'write' && isLoaded" ref="canvas" :model-value="(mail.body as RichText)" label="Body of the email"
      :own="own === true" :tags="tags"
      :notes="notes" :list-id="listId" :sights="sights" :parts="parts" :offers="offers" :look="look" :is-letter="mail.isLetter" :of="of"
      @keep="at => partAt = at" @update:model-value="body => set({ body })">
      <template #beside>
        <ChecksPanel :email="written" :whole="whole" :own="own === true" :versions="versions" @go="go" @notes="next => notes = next" />
        <PreviewAs v-model:reader="reader" :email="written" :versions="versions" :problem="problem" :at="at" @step="step" />
        <ExtrasPanel v-model="mail" :is-watched="kindOf(kind).isWatched" :workspace="frame.frame?.workspace.name ?? ''" />
        <slot name="beside" />
      </template>
    </EmailCanvas>
    <div v-else-if="side !== 'write'" class="seen">
      <EmailViews :email="written" :reader="reader" :views="views" />
      <PreviewAs v-model:reader="reader" :email="written" :versions="versions" :problem="problem" :at="at" @step="step" />
    </div>
  </div>
</template>

<style scoped>
.lines { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) 225px 165px; gap: 14px; align-items: start; }
/* Links below a field begin where it begins. */
.start { justify-self: start; }
/* On a phone they stand in two rows. */
.acts { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.views { display: flex; justify-content: space-between; align-items: center; gap: 12px; flex-wrap: wrap; }
:deep(.p-selectbutton) { flex-wrap: wrap; justify-self: start; }
.label { display: flex; justify-content: space-between; gap: 8px; }
.seen { display: grid; grid-template-columns: minmax(0, 1fr) 300px; gap: 20px; align-items: start; }
@media (max-width: 1080px) { .seen { grid-template-columns: minmax(0, 1fr); } }
@media (max-width: 1080px) { .lines { grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); } }
@media (max-width: 760px) { .lines { grid-template-columns: minmax(0, 1fr); } }
</style>
