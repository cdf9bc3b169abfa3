<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'
import { Editor, EditorContent } from '@tiptap/vue-3'
import StarterKit from '@tiptap/starter-kit'
import type { Line } from '#core/message/content'
import { NoBreaks, OneLine, docOf, lineOf } from '~/editor/line'
import { PlaceholderChip } from '~/editor/placeholder'
import FallbackForm from './FallbackForm.vue'

/** A subject or a preview text. */
/** `bare`: only what is typed; a name is put in elsewhere. */
const props = defineProps<{ label: string, invalid?: boolean, bare?: boolean }>()
const line = defineModel<Line>({ required: true })

const editor = new Editor({
  injectCSS: false,
  content: docOf(line.value),
  extensions: [
    StarterKit.configure({
      document: false, blockquote: false, bold: false, bulletList: false, code: false, codeBlock: false, hardBreak: false, heading: false,
      horizontalRule: false, italic: false, link: false, listItem: false, listKeymap: false, orderedList: false, strike: false,
      trailingNode: false, underline: false,
    }),
    OneLine, NoBreaks, PlaceholderChip,
  ],
  editorProps: { attributes: { 'role': 'textbox', 'aria-label': props.label } },
  onUpdate: ({ editor: now }) => {
    line.value = lineOf(now.getJSON())
  },
})
watch(line, (next) => {
  if (JSON.stringify(next) !== JSON.stringify(lineOf(editor.getJSON()))) editor.commands.setContent(docOf(next), { emitUpdate: false })
})
onBeforeUnmount(() => editor.destroy())

const asking = ref(false)
function insert(fallback: string) {
  asking.value = false
  editor.chain().focus().insertPlaceholder('first_name', fallback).run()
}
</script>

<template>
  <div class="line" :class="{ invalid }">
    <div class="text">
      <EditorContent :editor="editor" class="content" />
      <button v-if="!bare" type="button" class="add" :aria-label="`First name in ${label}`" @click="asking = !asking">
        <i class="pi pi-user" aria-hidden="true" /> name</button>
    </div>
    <FallbackForm v-if="asking" field="first_name" fallback="friend" action="Put it in" @done="insert" @close="asking = false" />
  </div>
</template>

<style scoped>
.line { border: 1px solid var(--p-porch-ink-third); border-radius: 6px; background: var(--p-porch-paper); overflow: hidden; }
.line:focus-within { border-color: var(--p-porch-door); }
.line.invalid { border-color: var(--p-porch-brick); }
.text { display: flex; align-items: center; }
.content { flex: 1; min-width: 0; }
.content :deep(.ProseMirror) { padding: 7px 10px; outline: none; white-space: pre-wrap; overflow-wrap: anywhere; }
.content :deep(p) { margin: 0; }
.add {
  flex: none; display: inline-flex; gap: 5px; align-items: center; min-height: 26px; margin-right: 4px; padding: 2px 8px; border: 0;
  border-radius: 4px; background: var(--p-porch-rail); color: var(--p-porch-ink-second); font-size: 12.5px; cursor: pointer;
}
.add .pi { font-size: 11px; }
.add:hover { color: var(--p-porch-ink); }
</style>
