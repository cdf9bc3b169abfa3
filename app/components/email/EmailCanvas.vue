<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { EditorContent } from '@tiptap/vue-3'
import type { BlockNode, CaseNode, RichText } from '#core/message/content'
import { dayOf, DEFAULT_LOOK, LETTER_LOOK, LOOK_CORNERS, LOOK_FONTS, LOOK_WIDTHS, type EmailLook } from '#core/message/look'
import type { EmailPartLine } from '#core/views/email'
import type { PlaceholderAttrs } from '#core/message/placeholders'
import { NEW_BLOCKS, type NewBlock } from '~/editor/email/kinds'
import { factItem, insertBlock, partBlock, type MenuItem } from '~/editor/email/menu'
import { beginOf, removeBlock, setOfBlock, stand } from '~/editor/email/moves'
import type { Known } from '~/editor/email/lookedUp'
import { addCase, moveCaseUp, removeCase, setCase, unwrap, type Sight, type Sights } from '~/editor/email/onlyFor'
import { tidyDoc } from '~/editor/email/attrs'
import { useEmailEditor } from '~/composables/useEmailEditor'
import { useOpenMenu } from '~/composables/useOpenMenu'
import type { OfferToShow } from '~/composables/useEmailParts'
import { useFrame } from '~/stores/frame'
import { usePictures } from '~/composables/usePictures'
import '~/editor/email/canvas.css'
import { useAttempt } from '~/composables/useAttempt'
import PlaceholderForm from '~/components/PlaceholderForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import TextTools, { type Tool } from '~/components/TextTools.vue'
import BlockForm from './BlockForm.vue'
import BlockGutter from './BlockGutter.vue'
import BlockMenu from './BlockMenu.vue'
import OnlyForForm from './OnlyForForm.vue'
import WhoDialog, { type ForWhom } from './WhoDialog.vue'

/** The email itself, to be written on: its blocks on their line at the left, tools above, and the form of what is chosen. */
const props = defineProps<{
  label: string, own: boolean, tags: { id: number, name: string }[]
  /** What is wrong with a block, by its id. */
  notes?: ReadonlyMap<string, string>
  listId: number | null
  /** Who gets what, by the id of the block with the versions. */
  sights?: ReadonlyMap<string, Sight>
  /** That can stand in it; without them this is a part itself. */
  parts?: readonly EmailPartLine[]
  offers?: readonly OfferToShow[]
  look?: EmailLook
  isLetter?: boolean
  /** Which step of which course it is. */
  of?: { courseId: number, stepId: string } | null
}>()
const emit = defineEmits<{ /** A block is to be kept as a part. */ keep: [at: number] }>()
const body = defineModel<RichText>({ required: true })

const canvas = ref<HTMLElement>()
const { src, bring } = usePictures()
const { problem, attempt } = useAttempt()
const sights: Sights = { of: id => props.sights?.get(id), drawn: new Map(), add: at => ask(at, null) }
const frame = useFrame()
const withParts = props.parts !== undefined
const known: Known = {
  parts: () => props.parts ?? [], offers: () => props.offers ?? [], now: () => frame.now, zone: () => frame.zone, drawn: new Set(),
}
const { editor, menu, asking, facts, places, current, inner, chosen, isOn, can } = useEmailEditor(body, {
  label: props.label, own: props.own, src, canvas, sights, known, withParts,
})
watch(() => [props.parts, props.offers], () => known.drawn.forEach(draw => draw()))
watch(() => props.sights, () => {
  for (const view of sights.drawn.values()) view.redraw()
})

/* Versions: whom one is for is asked in a dialog. */

const askingWho = ref(false)
const askedAbout = ref<{ at: number, n: number | null }>({ at: 0, n: null })
function ask(at: number, n: number | null) {
  askedAbout.value = { at, n }
  askingWho.value = true
}
const whoWas = computed<ForWhom | null>(() => {
  const { at, n } = askedAbout.value
  const attrs = n === null ? null : editor.state.doc.nodeAt(at)?.maybeChild(n)?.attrs as CaseNode['attrs'] | undefined
  return attrs?.who ? { who: attrs.who, name: attrs.name ?? null } : null
})
function setWho(now: ForWhom) {
  const { at } = askedAbout.value
  const n = askedAbout.value.n ?? addCase(editor as never, at, now.who)
  setCase(editor as never, at, n, now)
}
const cases = computed(() => {
  const all: CaseNode['attrs'][] = []
  if (current.value?.type === 'onlyFor') current.value.node.forEach(one => all.push(one.attrs as CaseNode['attrs']))
  return all
})
const sightOf = computed(() => props.sights?.get(current.value?.attrs.id as string))
const shownCase = () => Number((editor.view.nodeDOM(current.value!.at) as HTMLElement).querySelector<HTMLElement>('.cases')!.dataset.shown)
/** Shows of each block of versions the one with that number. */
function showVersions(chosen: ReadonlyMap<string, number>) {
  for (const [id, n] of chosen) if (n >= 0) sights.drawn.get(id)?.show(n)
}

/* Adding a block after another */

const { adding, open, take } = useOpenMenu(menu)
function add(at: number, button: HTMLElement) {
  const after = at + (editor.state.doc.nodeAt(at)?.nodeSize ?? 0)
  const all = [...NEW_BLOCKS, ...withParts ? known.parts().map(partBlock) : []]
  const items = all.filter(({ forOwn }) => !forOwn || (props.own && !hasOwn.value)).map((block: NewBlock): MenuItem => ({
    name: block.name, hint: block.hint, icon: block.icon, take: () => insertBlock(editor as never, after, block),
  }))
  open('Add a block', button, items, { editor: editor as never, range: () => ({ from: after, to: after }) })
}
const hasOwn = computed(() => body.value.content.some(({ type }) => type === 'ownButton'))
function insert(button: HTMLElement) {
  const { from, to } = editor.state.selection
  open('Insert', button, facts.find('').map(fact => factItem(fact, attrs => asking.value = attrs)), {
    editor: editor as never, range: () => ({ from, to }),
  })
}

/** Shows a block, and works on it. */
function goTo(blockId: string) {
  const place = places.value.find(({ key }) => key === blockId)
  if (!place) return
  const at = beginOf(editor as never, place.index)
  stand(editor as never, at)
  const element = editor.view.nodeDOM(at)
  if (element instanceof HTMLElement) element.scrollIntoView({ block: 'center' })
}
/** A block that is kept as a part stands for it from now on. */
function asPart(at: number, partId: number) {
  const node = editor.state.doc.nodeAt(at)!
  editor.chain().focus().insertContentAt({ from: at, to: at + node.nodeSize }, { type: 'part', attrs: { partId, id: node.attrs.id } }).run()
}
const blockOf = (at: number) => tidyDoc<RichText>({ type: 'doc', content: [editor.state.doc.nodeAt(at)!.toJSON() as BlockNode] })
defineExpose({ goTo, showVersions, asPart, blockOf })

/** It is written as it will look. */
const colours = computed(() => {
  const look = props.isLetter ? LETTER_LOOK : props.look ?? DEFAULT_LOOK
  const { ground, paper, ink, second, line, accent, onAccent } = dayOf(look)
  return {
    '--mail-ground': ground, '--mail-paper': paper, '--mail-ink': ink, '--mail-second': second, '--mail-line': line,
    '--mail-accent': accent,
    '--mail-on': onAccent, '--mail-font': LOOK_FONTS[look.font].family, '--mail-width': `${LOOK_WIDTHS[look.width]}px`,
    '--mail-corners': `${LOOK_CORNERS[look.corners]}px`,
  }
})

/* Tools */

const inMiddle = () => inner.value?.attrs.align === 'center'
const align = () => inner.value && setOfBlock(editor as never, inner.value.at, { align: inMiddle() ? null : 'center' })
const tools = computed<Tool[]>(() => [
  { name: 'Quote', icon: 'pi pi-comment', on: () => isOn('blockquote'), do: () => editor.chain().focus().toggleBlockquote().run() },
  { name: 'In the middle', icon: 'pi pi-align-center', on: inMiddle, do: align },
  { name: 'Insert a name, a date, a field', icon: 'pi pi-at', do: event => insert(event.currentTarget as HTMLElement) },
  { name: 'Picture', icon: 'pi pi-image', do: () => input.value!.click() },
  { name: 'Undo', icon: 'pi pi-undo', off: () => !can('undo'), do: () => editor.chain().focus().undo().run() },
  { name: 'Redo', icon: 'pi pi-refresh', off: () => !can('redo'), do: () => editor.chain().focus().redo().run() },
])
function insertPlaceholder(attrs: PlaceholderAttrs) {
  asking.value = null
  editor.chain().focus().insertPlaceholder(attrs).run()
}

/* Pictures, however they come */

const input = ref<HTMLInputElement>()
async function bringPictures(files: Iterable<File>, at?: number) {
  for (const file of files) {
    await attempt(async () => {
      const pictureId = await bring(file)
      const block = { type: 'picture', attrs: { pictureId, alt: '', url: '', size: 100 } }
      editor.chain().focus().insertContentAt(at ?? after(), block).run()
    })
  }
}
const after = () => inner.value ? inner.value.at + inner.value.node.nodeSize : editor.state.doc.content.size
const picturesOf = (list: DataTransfer | null) => [...list?.files ?? []].filter(({ type }) => type.startsWith('image/'))
function pasted(event: ClipboardEvent) {
  // A word processor sends a picture of the text beside the text: then the text is meant.
  const files = event.clipboardData?.types.includes('text/html') ? [] : picturesOf(event.clipboardData)
  if (files.length === 0) return
  event.preventDefault()
  event.stopPropagation()
  void bringPictures(files)
}
function dropped(event: DragEvent) {
  const files = picturesOf(event.dataTransfer)
  if (files.length === 0) return
  event.preventDefault()
  event.stopPropagation()
  void bringPictures(files, editor.view.posAtCoords({ left: event.clientX, top: event.clientY })?.pos)
}
async function chooseFile() {
  const files = [...input.value?.files ?? []]
  input.value!.value = ''
  await bringPictures(files)
}

/* What is chosen */

/** There is nothing to say of a line; a placeholder has its form above, and a line break none. */
const FORMLESS = ['divider', 'placeholder', 'hardBreak']
const formed = computed(() => {
  const one = chosen.value
  if (one && editor.schema.nodes[one.type]!.isAtom && !FORMLESS.includes(one.type)) return one
  return inner.value?.type === 'beside' ? inner.value : null
})
const name = computed(() => chosen.value?.type === 'placeholder' ? chosen.value : null)
const key = computed(() => formed.value ? `${formed.value.type} ${formed.value.attrs.id ?? formed.value.at}` : '')
const title = computed(() => places.value.find(({ index }) => index === current.value?.index)?.word ?? '')
</script>

<template>
  <div class="desk">
    <div class="sheet-row">
      <BlockGutter
        :editor="(editor as never)" :places="places" :current="current?.index ?? null" :notes="notes" @add="add"
        :keeps-parts="withParts" @for-some="(at: number) => ask(at, 0)" @keep="(at: number) => emit('keep', at)" />
      <div class="sheet">
        <div class="bar">
          <TextTools :editor="(editor as never)" :label="label" :more="tools" />
          <PlaceholderForm
            v-if="asking" :key="asking.field" :attrs="asking" :list-id="listId" action="Put it in" @done="insertPlaceholder"
            @close="asking = null" />
          <PlaceholderForm
            v-else-if="name" :key="`p${name.at}`" :attrs="(name.attrs as unknown as PlaceholderAttrs)" :list-id="listId" action="Change"
            @done="attrs => editor.chain().focus().updateAttributes('placeholder', attrs).run()" @close="editor.commands.focus()" />
        </div>
        <ProblemNote :of="problem" />
        <div ref="canvas" class="paper" :class="{ letter: isLetter }" :style="colours" @paste.capture="pasted" @drop.capture="dropped">
          <EditorContent :editor="editor" class="written" />
        </div>
        <input
          ref="input" type="file" multiple accept="image/png,image/jpeg,image/webp,image/gif" aria-label="Pictures" hidden
          @change="chooseFile" />
        <p class="second small keys">Type <kbd>/</kbd> for a block, <kbd>@</kbd> for a name or a date.
          <kbd>Alt</kbd> and an arrow key move a block.</p>
      </div>
    </div>
    <aside class="beside" aria-label="Beside the email">
      <section v-if="formed" class="panel form" :aria-label="title">
        <h2>{{ title }}</h2>
        <BlockForm
          :key="key" :type="formed.type" :attrs="formed.attrs" :tags="tags" :of="of ?? null" :offers="offers ?? []"
          @change="attrs => setOfBlock(editor as never, formed!.at, attrs)"
          @remove="removeBlock(editor as never, formed!.at)" />
      </section>
      <section v-if="current?.type === 'onlyFor'" class="panel form" aria-label="Only for">
        <h2>Only for</h2>
        <OnlyForForm
          :cases="cases" :sight="sightOf" @show="n => sights.drawn.get(current!.attrs.id as string)?.show(n)"
          @change="n => ask(current!.at, n)" @add="ask(current!.at, null)" @rest="addCase(editor as never, current!.at, null)"
          @up="n => moveCaseUp(editor as never, current!.at, n)" @remove="n => removeCase(editor as never, current!.at, n)"
          @unwrap="unwrap(editor as never, current!.at, shownCase())" />
      </section>
      <slot name="beside" />
    </aside>
    <WhoDialog v-if="askingWho" v-model:visible="askingWho" :was="whoWas" @done="setWho" />
    <BlockMenu v-if="adding ?? menu" v-bind="(adding ?? menu)!" @mousedown.stop @take="take" />
  </div>
</template>

<style scoped>
.desk { display: grid; grid-template-columns: minmax(0, 1fr) 300px; gap: 20px; align-items: start; }
.sheet-row { display: flex; gap: 12px; min-width: 0; }
.sheet { flex: 1; min-width: 0; max-width: 680px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 8px; }
.bar { position: sticky; top: 0; z-index: 3; border: 1px solid var(--p-porch-line); border-radius: 8px; overflow: hidden; }
.bar :deep(.tools) { border-bottom: 0; flex-wrap: wrap; }
/* Around what is written stands what will stand around it. */
.paper { background: var(--mail-ground); border: 1px solid var(--p-porch-line); border-radius: 8px; min-height: 320px; }
.gutter { margin-top: 46px; }
.keys { padding: 0 4px; }
kbd {
  font: 600 12px/1 var(--mono); border: 1px solid var(--p-porch-line); border-radius: 4px; padding: 1px 5px;
  background: var(--p-porch-paper);
}
.beside { display: grid; gap: 14px; position: sticky; top: 0; }
.form { padding: 12px 14px 14px; display: grid; gap: 10px; }
.form h2 { font-size: 16px; padding: 0; }
.form :deep(.button-form) { grid-template-columns: minmax(0, 1fr); padding: 0; border: 0; background: none; }
.form :deep(.button-form > button) { margin: 0; justify-self: start; }
@media (max-width: 1080px) {
  .desk { grid-template-columns: minmax(0, 1fr); }
  .beside { position: static; }
  .form { position: sticky; bottom: 8px; box-shadow: 0 -6px 24px rgb(29 44 60 / 16%); }
}
</style>
