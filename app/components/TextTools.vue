<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { Editor } from '@tiptap/core'
import { isUnfinished, readAddress } from '#core/message/webAddress'

/** Tools for the text that is being written; others of the same shape may stand after them. */
export interface Tool { name: string, icon?: string, letter?: string, on?: () => boolean, off?: () => boolean, do: (event: Event) => void }
const props = defineProps<{ editor: Editor | null, label: string, more?: Tool[] }>()

/** The editor keeps its own state; this makes the tools follow it. */
const count = ref(0)
const follow = () => count.value++
watch(() => props.editor, (now, before) => {
  before?.off('transaction', follow)
  now?.on('transaction', follow)
  follow()
}, { immediate: true })
onBeforeUnmount(() => props.editor?.off('transaction', follow))

const asking = ref(false)
const href = ref('')
const read = computed(() => readAddress(href.value, 'any'))
const can = (name: string) => props.editor !== null && name in props.editor.schema.nodes
const has = (name: string) => props.editor !== null && name in props.editor.schema.marks
const tools = computed<Tool[]>(() => {
  const { editor } = props
  if (!editor) return []
  return [
    ...can('heading') ? [{
      name: 'Heading', letter: 'H', on: () => editor.isActive('heading', { level: 2 }),
      do: () => editor.chain().focus().toggleHeading({ level: 2 }).run(),
    }] : [],
    ...has('bold')
      ? [{ name: 'Bold', letter: 'B', on: () => editor.isActive('bold'), do: () => editor.chain().focus().toggleBold().run() }]
      : [],
    ...has('italic')
      ? [{ name: 'Italic', letter: 'I', on: () => editor.isActive('italic'), do: () => editor.chain().focus().toggleItalic().run() }]
      : [],
    ...can('heading') ? [
      {
        name: 'List of points', icon: 'pi pi-list', on: () => editor.isActive('bulletList'),
        do: () => editor.chain().focus().toggleBulletList().run(),
      },
      {
        name: 'Numbered list', letter: '1.', on: () => editor.isActive('orderedList'),
        do: () => editor.chain().focus().toggleOrderedList().run(),
      },
    ] : [],
    ...has('link') ? [{ name: 'Link', icon: 'pi pi-link', on: () => editor.isActive('link'), do: askForLink }] : [],
    ...props.more ?? [],
  ]
})
const isOn = (tool: Tool) => count.value >= 0 && tool.on?.() === true
const isOff = (tool: Tool) => count.value >= 0 && tool.off?.() === true

function askForLink() {
  href.value = props.editor!.getAttributes('link').href ?? 'https://'
  asking.value = true
}
function setLink() {
  if (!read.value.ok) return
  const chain = props.editor!.chain().focus().extendMarkRange('link')
  const address = href.value.trim()
  // With nothing selected the address is written out, so that it is never lost.
  if (props.editor!.state.selection.empty && !props.editor!.isActive('link')) chain.insertContent({
    type: 'text', text: address.replace(/^(mailto|tel):/i, ''), marks: [{ type: 'link', attrs: { href: address } }],
  }).run()
  else chain.setLink({ href: address }).run()
  asking.value = false
}
function removeLink() {
  props.editor!.chain().focus().extendMarkRange('link').unsetLink().run()
  asking.value = false
}
</script>

<template>
  <div class="tools" role="toolbar" :aria-label="`Tools for ${label}`">
    <button
      v-for="tool in tools" :key="tool.name" type="button" :class="{ on: isOn(tool) }" :aria-pressed="tool.on ? isOn(tool) : undefined"
      :aria-label="tool.name" :title="tool.name" :disabled="isOff(tool)" @mousedown.prevent @click="tool.do">
      <i v-if="tool.icon" :class="tool.icon" aria-hidden="true" />
      <span v-else :class="`letter-${tool.name.toLowerCase()}`" aria-hidden="true">{{ tool.letter }}</span>
    </button>
    <slot v-if="tools.length === 0" />
  </div>
  <form v-if="asking" class="ask" @submit.prevent="setLink" @keydown.esc.stop="asking = false">
    <label :for="`href-${label}`">Leads to</label>
    <InputText :id="`href-${label}`" v-model="href" size="small" autofocus />
    <Button type="submit" size="small" label="Link" :disabled="!read.ok" />
    <Button size="small" severity="secondary" label="No link" @click="removeLink" />
    <p v-if="!read.ok && !isUnfinished(href)" class="problem">{{ read.problem }}</p>
  </form>
</template>

<style scoped>
.tools {
  display: flex; gap: 2px; padding: 4px; min-height: 36px; align-items: center; background: var(--p-porch-rail);
  border-bottom: 1px solid var(--p-porch-line-light);
}
.tools button {
  min-width: 30px; height: 28px; border: 0; border-radius: 4px; background: none; color: var(--p-porch-ink-second); cursor: pointer;
  font-size: 13px;
}
.tools button:disabled { color: var(--p-porch-ink-third); cursor: default; }
.tools button:not(:disabled):hover, .tools button.on { background: var(--p-porch-line-light); color: var(--p-porch-ink); }
.letter-bold, .letter-heading { font-weight: 800; }
.letter-italic { font-style: italic; }
.ask {
  display: flex; align-items: center; gap: 8px; padding: 6px 8px; background: var(--p-porch-rail);
  border-bottom: 1px solid var(--p-porch-line-light); font-size: 13px;
}
.ask input { flex: 1; }
</style>
