<script setup lang="ts">
import { onBeforeUnmount, shallowRef, watch } from 'vue'
import { Editor, EditorContent } from '@tiptap/vue-3'
import StarterKit from '@tiptap/starter-kit'
import type { Line } from '#core/message/content'
import { NoBreaks, OneLine, docOf, lineOf } from '~/editor/line'
import type { PlaceholderAttrs } from '#core/message/placeholders'
import { useFacts } from '~/composables/useFacts'
import { useOpenMenu } from '~/composables/useOpenMenu'
import { factItem, WritingMenus, type OpenMenu } from '~/editor/email/menu'
import { PlaceholderChip } from '~/editor/placeholder'
import BlockMenu from './email/BlockMenu.vue'
import PlaceholderForm from './PlaceholderForm.vue'

/** A subject or a preview text. */
/** `bare`: only what is typed; a name is put in elsewhere. */
const props = defineProps<{ label: string, invalid?: boolean, bare?: boolean, /** By which list it goes. */ listId?: number | null }>()
const line = defineModel<Line>({ required: true })

const facts = useFacts({ inLine: true })
const typedMenu = shallowRef<OpenMenu | null>(null)
const asking = shallowRef<PlaceholderAttrs | null>(null)
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
    WritingMenus({ blocks: null, find: facts.find, onChange: next => typedMenu.value = next, ask: attrs => asking.value = attrs }),
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

function insert(attrs: PlaceholderAttrs) {
  asking.value = null
  editor.chain().focus().insertPlaceholder(attrs).run()
}
const { adding, open: openMenu, take } = useOpenMenu(typedMenu)
const items = () => facts.find('').map(fact => factItem(fact, attrs => asking.value = attrs))
const choose = (button: HTMLElement) => openMenu('Insert', button, items(), {
  editor: editor as never, range: () => ({ from: editor.state.selection.from, to: editor.state.selection.to }),
})
</script>

<template>
  <div class="line" :class="{ invalid }">
    <div class="text">
      <EditorContent :editor="editor" class="content" />
      <button
        v-if="!bare" type="button" class="add" :aria-label="`Insert into ${label}`" aria-haspopup="true"
        title="Insert a name, a date, a field"
        @mousedown.stop @click="event => choose(event.currentTarget as HTMLElement)"><i class="pi pi-at" aria-hidden="true" /></button>
    </div>
    <PlaceholderForm
      v-if="asking" :attrs="asking" :list-id="listId ?? null" action="Put it in" @done="insert" @close="asking = null" />
    <BlockMenu v-if="adding ?? typedMenu" v-bind="(adding ?? typedMenu)!" @mousedown.stop @take="take" />
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
