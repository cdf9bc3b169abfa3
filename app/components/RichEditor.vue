<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { Editor, EditorContent } from '@tiptap/vue-3'
import StarterKit from '@tiptap/starter-kit'
import InputText from 'primevue/inputtext'
import type { ButtonNode, PlaceholderField, RichText } from '#core/message/content'
import { api } from '~/composables/useApi'
import { EmailButton } from '~/editor/button'
import { OwnButton } from '~/editor/ownButton'
import { PlaceholderChip } from '~/editor/placeholder'
import { styleNonce } from '~/theme/nonce'
import ButtonForm from './ButtonForm.vue'
import FallbackForm from './FallbackForm.vue'
import TextTools, { type Tool } from './TextTools.vue'

/**
 * Text with headings, lists and links; in emails also placeholders and buttons: those of a course, or the one that leads to what the email
 * is for.
 */
const props = defineProps<{ label: string, forEmail?: 'course' | 'own', tags?: { id: number, name: string }[] }>()
const doc = defineModel<RichText>({ required: true })

/** The library of links, once it is wanted. */
const library = ref<{ id: number, name: string, url: string }[]>([])
async function loadLibrary() {
  if (props.forEmail === 'course') library.value = await api('GET /links').catch(() => [])
}
onMounted(loadLibrary)

const asking = ref(false)
const editor = new Editor({
  injectNonce: styleNonce(),
  content: doc.value,
  extensions: [
    StarterKit.configure({
      blockquote: false, code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false,
      heading: { levels: [2, 3] },
      link: { openOnClick: false, autolink: true, protocols: ['http', 'https'], HTMLAttributes: { rel: null, target: null } },
    }),
    ...(props.forEmail ? [PlaceholderChip, props.forEmail === 'own' ? OwnButton : EmailButton] : []),
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

const more = computed<Tool[]>(() => !props.forEmail ? [] : [
  { name: 'First name', icon: 'pi pi-user', do: () => asking.value = !asking.value },
  ...props.forEmail === 'own'
    ? hasOwn.value ? [] : [{
      name: 'Put the button back', icon: 'pi pi-stop',
      do: () => editor.chain().focus().insertContent({ type: 'ownButton', attrs: { label: 'Button text' } }).run(),
    }]
    : [{ name: 'Button', icon: 'pi pi-stop', do: addButton }],
])
const hasOwn = computed(() => JSON.stringify(doc.value).includes('"ownButton"'))

function insertPlaceholder(fallback: string) {
  asking.value = false
  editor.chain().focus().insertPlaceholder('first_name', fallback).run()
}
function addButton() {
  editor.chain().focus()
    .insertContent({ type: 'button', attrs: { label: 'Button text', url: 'https://', tagId: null, linkId: null, asks: false } }).run()
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
  return node && ['button', 'ownButton', 'placeholder'].includes(node.type.name)
    ? { type: node.type.name, attrs: node.attrs, at: selection.from }
    : null
})
const selectedButton = computed(() => selected.value?.type === 'button' ? selected.value.attrs as ButtonNode['attrs'] : null)
const selectedOwn = computed(() => selected.value?.type === 'ownButton' ? selected.value.attrs as { label: string } : null)
const selectedPlaceholder = computed(() =>
  selected.value?.type === 'placeholder' ? selected.value.attrs as { field: PlaceholderField, fallback: string } : null)

function changeButton(attrs: ButtonNode['attrs']) {
  const at = selected.value!.at
  editor.chain().updateAttributes('button', attrs).setNodeSelection(at).run()
}
function changeOwn(label: string | undefined) {
  const at = selected.value!.at
  editor.chain().updateAttributes('ownButton', { label: label ?? '' }).setNodeSelection(at).run()
}
function removeSelected() {
  editor.chain().focus().deleteSelection().run()
}
</script>

<template>
  <div class="editor">
    <TextTools :editor="editor as never" :label="label" :more="more" />
    <FallbackForm v-if="asking" field="first_name" fallback="friend" action="Put it in" @done="insertPlaceholder" @close="asking = false" />
    <EditorContent :editor="editor" class="content" :class="{ email: forEmail }" />
    <ButtonForm
      v-if="selectedButton" :key="selected!.at" :attrs="selectedButton" :tags="tags ?? []" :links="library" @change="changeButton"
      @remove="removeSelected" />
    <div v-else-if="selectedOwn" class="own">
      <label :for="`own-${label}`">The button says</label>
      <InputText :id="`own-${label}`" :model-value="selectedOwn.label" size="small" maxlength="80" @update:model-value="changeOwn" />
    </div>
    <FallbackForm
      v-else-if="selectedPlaceholder" :key="`p${selected!.at}`" :field="selectedPlaceholder.field" :fallback="selectedPlaceholder.fallback"
      action="Change" @done="fallback => editor.chain().focus().updateAttributes('placeholder', { fallback }).run()"
      @close="editor.commands.focus()" />
  </div>
</template>

<style scoped>
.editor { border: 1px solid var(--p-porch-ink-third); border-radius: 6px; background: var(--p-porch-paper); overflow: hidden; }
.editor:focus-within { border-color: var(--p-porch-door); }
.own {
  display: flex; gap: 8px; align-items: center; padding: 8px; background: var(--p-porch-rail);
  border-top: 1px solid var(--p-porch-line-light); font-size: 13px;
}
.own input { flex: 1; }
.content :deep(.ProseMirror) { min-height: 110px; padding: 12px 14px; outline: none; overflow-wrap: anywhere; }
.content.email :deep(.ProseMirror) { min-height: 200px; }
.content :deep(.ProseMirror > * + *) { margin-top: 10px; }
.content :deep(h2) { font-size: 18px; }
.content :deep(ul), .content :deep(ol) { padding-left: 22px; margin-bottom: 0; }
</style>
