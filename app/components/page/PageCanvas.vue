<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { Editor } from '@tiptap/core'
import type { Drawn } from '#core/page/content'
import { editMark, type EditedAs, type Mark } from '#core/page/editing'
import type { Html } from '#core/page/html'
import { themeClasses } from '#core/page/theme'
import type { PictureView } from '#core/page/picture'
import { pageHtml } from '#core/page/render'
import type { PartValue } from '~/editor/canvas'
import { useFrame } from '~/stores/frame'
import TextTools from '~/components/TextTools.vue'

/** The page as its visitors see it, and every text of it to be written in where it stands. */
const draft = defineModel<Drawn & { form: object }>({ required: true })
const chosen = defineModel<string | null>('chosen', { required: true })
/** `box` draws what visitors press; it is drawn anew where `shapeOfBox` changes, in which the texts that can be written in do not stand. */
const props = defineProps<{ pictures: PictureView[], box: (mark: Mark) => Html, shapeOfBox: unknown }>()

const frame = useFrame()
const holder = ref<HTMLIFrameElement>()
const writing = shallowRef<Editor | null>(null)
let editors: Editor[] = []
const shell = '<!doctype html><html lang="en"><head><link rel="stylesheet" href="/canvas.css"></head><body><main></main></body></html>'

/** All of the page but the texts, which its editors keep by themselves: where this changes, the page is drawn anew. */
const shape = computed(() => JSON.stringify([
  draft.value.theme.picture, props.shapeOfBox, props.pictures.map(({ id }) => id), frame.frame?.workspace.zone,
  draft.value.sections.map(section => [section.id, section.kind, section.hidden, ...section.kind === 'picture'
    ? [section.pictureId, section.alt, section.decorates]
    : section.kind === 'countdown' ? [section.date, section.time] : section.kind === 'questions' ? [section.questions.length] : []]),
]))

const page = () => holder.value?.contentDocument ?? null

/** What makes its texts editors is as large as the rest of the screen: the page is seen before that has come. */
const coming = import('~/editor/canvas')
/** The page can be looked at all the same. */
const unreachable = ref(false)
let drawn = 0

function draw() {
  const doc = page()
  const main = doc?.querySelector('main')
  if (!doc || !main) return
  for (const editor of editors) editor.destroy()
  editors = []
  writing.value = null
  const top = doc.documentElement.scrollTop
  const html = pageHtml({
    content: draft.value, box: props.box(editMark), mark: editMark, pictures: new Map(props.pictures.map(picture => [picture.id, picture])),
    at: path => `${frame.mode === 'practice' ? '/practice' : ''}${path}`, now: frame.now, zone: frame.zone,
  })
  main.innerHTML = html.source
  for (const element of main.querySelectorAll<HTMLElement>('.field, fieldset, .tick')) element.inert = true
  dress()
  doc.documentElement.scrollTop = top
  void makeEditors(main, ++drawn)
}

/** Unless it is drawn anew, or left, before they have come. Twenty at once would keep a click waiting, so each has a task of its own. */
async function makeEditors(main: HTMLElement, ofDrawing: number) {
  const editing = await coming.catch(() => null)
  unreachable.value = editing === null
  if (!editing) return
  const { editPart, partAt } = editing
  for (const element of main.querySelectorAll<HTMLElement>('[data-edit]')) {
    await new Promise(done => setTimeout(done))
    if (drawn !== ofDrawing || !page()) return
    const { edit, as, label } = element.dataset as { edit: string, as: EditedAs, label: string }
    const { of, key } = partAt(draft.value, edit)
    editors.push(editPart(element, as, label, of[key] as PartValue, (value) => {
      const part = partAt(draft.value, edit)
      part.of[part.key] = value
    }, editor => writing.value = editor))
  }
}

/** What changes without drawing anew. */
function dress() {
  const doc = page()
  if (!doc) return
  doc.body.className = themeClasses({ ...draft.value.theme, night: false })
  for (const section of doc.querySelectorAll<HTMLElement>('[data-section]')) {
    section.classList.toggle('chosen', section.dataset.section === chosen.value)
  }
}

function ready() {
  const doc = page()
  if (!doc) return
  doc.addEventListener('submit', event => event.preventDefault())
  doc.addEventListener('click', (event) => {
    const target = event.target as Element
    if (target.closest('a')) event.preventDefault()
    chosen.value = target.closest<HTMLElement>('[data-section]')?.dataset.section ?? null
  })
  draw()
}

watch(shape, () => void nextTick(draw))
watch(() => [draft.value.theme, chosen.value], dress, { deep: true })
/** Brings a section into view, once it is drawn. */
async function show(id: string) {
  await nextTick()
  await nextTick()
  page()?.querySelector<HTMLElement>(`[data-section="${id}"]`)?.scrollIntoView({ block: 'center' })
}
defineExpose({ show })
onBeforeUnmount(() => {
  for (const editor of editors) editor.destroy()
})
</script>

<template>
  <div class="canvas">
    <TextTools :editor="writing" label="the page">
      <span v-if="unreachable" class="problem small hint" role="alert">The editor could not be loaded. Reload the page to write.</span>
      <span v-else class="second small hint">{{ writing ? 'One line of plain words.' : 'Click any text on the page and write.' }}</span>
    </TextTools>
    <iframe ref="holder" :srcdoc="shell" title="The page, to be written in" @load="ready" />
  </div>
</template>

<style scoped>
.canvas {
  border: 1px solid var(--p-porch-line); border-radius: 8px; overflow: hidden; background: var(--p-porch-paper); display: flex;
  flex-direction: column; height: calc(100vh - var(--rail) - 168px); min-height: 420px;
}
iframe { width: 100%; flex: 1; border: 0; }
.hint { padding-left: 8px; }
</style>
