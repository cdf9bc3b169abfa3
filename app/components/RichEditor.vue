<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { Editor, EditorContent } from '@tiptap/vue-3'
import StarterKit from '@tiptap/starter-kit'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import type { ButtonNode, PlaceholderField, RichText } from '#core/message/content'
import { isFollowable } from '#core/sequence/draft'
import { EmailButton } from '~/editor/button'
import { PlaceholderChip } from '~/editor/placeholder'
import { styleNonce } from '~/look/nonce'
import ButtonForm from './ButtonForm.vue'
import FallbackForm from './FallbackForm.vue'

/** Text with headings, lists and links; in emails also placeholders and buttons. */
const props = defineProps<{ label: string, forEmail?: boolean, tags?: { id: number, name: string }[] }>()
const doc = defineModel<RichText>({ required: true })

const asking = ref<'link' | 'placeholder' | null>(null)
const href = ref('')
const editor = new Editor({
  injectNonce: styleNonce(),
  content: doc.value,
  extensions: [
    StarterKit.configure({
      blockquote: false, code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false,
      heading: { levels: [2, 3] },
      link: { openOnClick: false, autolink: true, protocols: ['http', 'https'], HTMLAttributes: { rel: null, target: null } },
    }),
    ...(props.forEmail ? [PlaceholderChip, EmailButton] : []),
  ],
  editorProps: { attributes: { 'role': 'textbox', 'aria-multiline': 'true', 'aria-label': props.label } },
  onUpdate: ({ editor: now }) => {
    doc.value = now.getJSON() as unknown as RichText
  },
  onSelectionUpdate: () => count.value++,
  onTransaction: () => count.value++,
})
// The editor keeps its own state; this makes the tools follow it.
const count = ref(0)

watch(doc, (next) => {
  if (JSON.stringify(next) !== JSON.stringify(editor.getJSON())) editor.commands.setContent(next as never, { emitUpdate: false })
})
onBeforeUnmount(() => editor.destroy())

interface Tool { name: string, icon?: string, letter?: string, on?: () => boolean, do: () => void }

const tools = computed<Tool[]>(() => [
  { name: 'Heading', letter: 'H', on: () => editor.isActive('heading', { level: 2 }), do: () => editor.chain().focus().toggleHeading({ level: 2 }).run() },
  { name: 'Bold', letter: 'B', on: () => editor.isActive('bold'), do: () => editor.chain().focus().toggleBold().run() },
  { name: 'Italic', letter: 'I', on: () => editor.isActive('italic'), do: () => editor.chain().focus().toggleItalic().run() },
  { name: 'List of points', icon: 'pi pi-list', on: () => editor.isActive('bulletList'), do: () => editor.chain().focus().toggleBulletList().run() },
  { name: 'Numbered list', letter: '1.', on: () => editor.isActive('orderedList'), do: () => editor.chain().focus().toggleOrderedList().run() },
  { name: 'Link', icon: 'pi pi-link', on: () => editor.isActive('link'), do: askForLink },
  ...(props.forEmail
    ? [
        { name: 'First name', icon: 'pi pi-user', do: () => asking.value = asking.value === 'placeholder' ? null : 'placeholder' },
        { name: 'Button', icon: 'pi pi-stop', do: addButton },
      ]
    : []),
])
const isOn = (tool: Tool) => count.value >= 0 && tool.on?.() === true

function askForLink() {
  href.value = editor.getAttributes('link').href ?? 'https://'
  asking.value = 'link'
}
function setLink() {
  if (isFollowable(href.value)) editor.chain().focus().extendMarkRange('link').setLink({ href: href.value }).run()
  asking.value = null
}
function removeLink() {
  editor.chain().focus().extendMarkRange('link').unsetLink().run()
  asking.value = null
}
function insertPlaceholder(fallback: string) {
  asking.value = null
  editor.chain().focus().insertPlaceholder('first_name', fallback).run()
}
function addButton() {
  editor.chain().focus().insertContent({ type: 'button', attrs: { label: 'Words of the button', url: 'https://', tagId: null } }).run()
  // Stand on it, so that its form opens.
  const { state } = editor
  for (let at = state.selection.from; at >= 0; at--) {
    if (state.doc.nodeAt(at)?.type.name === 'button') {
      editor.commands.setNodeSelection(at)
      break
    }
  }
}

/** The node that stands selected as a whole, if it has a form of its own. */
const selected = computed(() => {
  if (count.value < 0) return null
  const { selection } = editor.state
  const node = 'node' in selection ? (selection as { node: { type: { name: string }, attrs: Record<string, unknown> } }).node : null
  return node && ['button', 'placeholder'].includes(node.type.name) ? { type: node.type.name, attrs: node.attrs, at: selection.from } : null
})
const selectedButton = computed(() => selected.value?.type === 'button' ? selected.value.attrs as ButtonNode['attrs'] : null)
const selectedPlaceholder = computed(() => selected.value?.type === 'placeholder' ? selected.value.attrs as { field: PlaceholderField, fallback: string } : null)

function changeButton(attrs: ButtonNode['attrs']) {
  const at = selected.value!.at
  editor.chain().updateAttributes('button', attrs).setNodeSelection(at).run()
}
function removeSelected() {
  editor.chain().focus().deleteSelection().run()
}
</script>

<template>
  <div class="editor">
    <div class="tools" role="toolbar" :aria-label="`Tools for ${label}`">
      <button v-for="tool in tools" :key="tool.name" type="button" :class="{ on: isOn(tool) }" :aria-pressed="tool.on ? isOn(tool) : undefined" :aria-label="tool.name" :title="tool.name" @click="tool.do">
        <i v-if="tool.icon" :class="tool.icon" aria-hidden="true" /><span v-else :class="`letter-${tool.name.toLowerCase()}`" aria-hidden="true">{{ tool.letter }}</span>
      </button>
    </div>
    <form v-if="asking === 'link'" class="ask" @submit.prevent="setLink" @keydown.esc.stop="asking = null">
      <label :for="`href-${label}`">Leads to</label>
      <InputText :id="`href-${label}`" v-model="href" size="small" autofocus />
      <Button type="submit" size="small" severity="secondary" label="Set the link" :disabled="!isFollowable(href)" />
      <Button v-if="editor.isActive('link')" size="small" severity="secondary" label="Take it off" @click="removeLink" />
    </form>
    <FallbackForm v-if="asking === 'placeholder'" field="first_name" fallback="friend" action="Put it in" @done="insertPlaceholder" @close="asking = null" />
    <EditorContent :editor="editor" class="content" :class="{ email: forEmail }" />
    <ButtonForm v-if="selectedButton" :key="selected!.at" :attrs="selectedButton" :tags="tags ?? []" @change="changeButton" @remove="removeSelected" />
    <FallbackForm v-else-if="selectedPlaceholder" :key="`p${selected!.at}`" :field="selectedPlaceholder.field" :fallback="selectedPlaceholder.fallback" action="Change" @done="fallback => editor.chain().focus().updateAttributes('placeholder', { fallback }).run()" @close="editor.commands.focus()" />
  </div>
</template>

<style scoped>
.editor { border: 1px solid var(--p-porch-ink-third); border-radius: 6px; background: var(--p-porch-paper); overflow: hidden; }
.editor:focus-within { border-color: var(--p-porch-door); }
.tools { display: flex; gap: 2px; padding: 4px; background: var(--p-porch-rail); border-bottom: 1px solid var(--p-porch-line-light); }
.tools button { min-width: 30px; height: 28px; border: 0; border-radius: 4px; background: none; color: var(--p-porch-ink-second); cursor: pointer; font-size: 13px; }
.tools button:hover, .tools button.on { background: var(--p-porch-line-light); color: var(--p-porch-ink); }
.letter-bold, .letter-heading { font-weight: 800; }
.letter-italic { font-style: italic; }
.ask { display: flex; align-items: center; gap: 8px; padding: 6px 8px; background: var(--p-porch-rail); border-bottom: 1px solid var(--p-porch-line-light); font-size: 13px; }
.ask input { flex: 1; }
.content :deep(.ProseMirror) { min-height: 110px; padding: 12px 14px; outline: none; overflow-wrap: anywhere; }
.content.email :deep(.ProseMirror) { min-height: 200px; }
.content :deep(.ProseMirror > * + *) { margin-top: 10px; }
.content :deep(h2) { font-size: 18px; }
.content :deep(ul), .content :deep(ol) { padding-left: 22px; margin-bottom: 0; }
</style>
