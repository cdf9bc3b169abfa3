<script setup lang="ts">
import { onBeforeUnmount, watch } from 'vue'
import { Editor, EditorContent } from '@tiptap/vue-3'
import StarterKit from '@tiptap/starter-kit'
import type { RichText } from '#core/message/content'
import { styleNonce } from '~/theme/nonce'
import TextTools from './TextTools.vue'

/** Text of a page with headings, lists and links. Emails are written in email/EmailDesk. */
const props = defineProps<{ label: string }>()
const doc = defineModel<RichText>({ required: true })

const editor = new Editor({
  injectNonce: styleNonce(),
  content: doc.value,
  extensions: [StarterKit.configure({
    blockquote: false, code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false,
    heading: { levels: [2, 3] }, trailingNode: false,
    link: { openOnClick: false, autolink: true, protocols: ['http', 'https'], HTMLAttributes: { rel: null, target: null } },
  })],
  editorProps: { attributes: { 'role': 'textbox', 'aria-multiline': 'true', 'aria-label': props.label } },
  onUpdate: ({ editor: now }) => {
    doc.value = now.getJSON() as unknown as RichText
  },
})
watch(doc, (next) => {
  if (JSON.stringify(next) !== JSON.stringify(editor.getJSON())) editor.commands.setContent(next as never, { emitUpdate: false })
})
onBeforeUnmount(() => editor.destroy())
</script>

<template>
  <div class="editor">
    <TextTools :editor="editor as never" :label="label" />
    <EditorContent :editor="editor" class="content" />
  </div>
</template>

<style scoped>
.editor { border: 1px solid var(--p-porch-ink-third); border-radius: 6px; background: var(--p-porch-paper); overflow: hidden; }
.editor:focus-within { border-color: var(--p-porch-door); }
.content :deep(.ProseMirror) { min-height: 110px; padding: 12px 14px; outline: none; overflow-wrap: anywhere; }
.content :deep(.ProseMirror > * + *) { margin-top: 10px; }
.content :deep(h2) { font-size: 18px; }
.content :deep(ul), .content :deep(ol) { padding-left: 22px; margin-bottom: 0; }
</style>
