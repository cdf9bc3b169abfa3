<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Editor } from '@tiptap/core'
import { beginOf, doubleBlock, moveBlock, putBlock, removeBlock, setOfBlock, stand } from '~/editor/email/moves'
import { wrapForSome } from '~/editor/email/onlyFor'
import type { BlockPlace } from '~/composables/useEmailEditor'
import PopupMenu from '~/components/PopupMenu'
import NameDialog from '~/components/NameDialog.vue'

/** The blocks of an email at their heights: what each is, and what can be done with it as a whole. */
const props = defineProps<{
  editor: Editor, places: BlockPlace[], current: number | null, notes?: ReadonlyMap<string, string>
  /** A block can be kept as a part. */
  keepsParts?: boolean
}>()
const emit = defineEmits<{
  add: [at: number, button: HTMLElement], keep: [at: number]
  /** It has become one for some: for whom is to be asked. */
  forSome: [at: number]
}>()

const menu = ref<InstanceType<typeof PopupMenu>>()
const of = ref<BlockPlace | null>(null)
const naming = ref(false)
const index = computed(() => of.value ? props.places.findIndex(({ key }) => key === of.value!.key) : -1)
/** Where it stands now: a menu stays open while what is above it changes. */
const at = () => beginOf(props.editor, index.value)
const items = computed(() => !of.value ? [] : [
  { label: 'Move up', icon: 'pi pi-arrow-up', disabled: index.value <= 0, command: () => void moveBlock(props.editor, at(), -1) },
  {
    label: 'Move down', icon: 'pi pi-arrow-down', disabled: index.value >= props.places.length - 1,
    command: () => void moveBlock(props.editor, at(), 1),
  },
  { label: 'Duplicate', icon: 'pi pi-clone', command: () => doubleBlock(props.editor, at()) },
  { label: of.value.name ? 'Rename …' : 'Name it …', icon: 'pi pi-pencil', command: () => { naming.value = true } },
  ...props.editor.state.doc.nodeAt(at())?.type.name === 'onlyFor' ? [] : [{
    label: 'Only for some …', icon: 'pi pi-users', command() {
      wrapForSome(props.editor, at())
      emit('forSome', at())
    },
  }],
  ...props.keepsParts && props.editor.state.doc.nodeAt(at())?.type.name !== 'part'
    ? [{ label: 'Keep as a part …', icon: 'pi pi-clone', command: () => emit('keep', at()) }]
    : [],
  of.value.hidden
    ? { label: 'Show it in the email', icon: 'pi pi-eye', command: () => setOfBlock(props.editor, at(), { hidden: false }) }
    : { label: 'Leave it out of the email', icon: 'pi pi-eye-slash', command: () => setOfBlock(props.editor, at(), { hidden: true }) },
  { label: 'Delete', icon: 'pi pi-trash', command: () => removeBlock(props.editor, at()) },
])
function open(place: BlockPlace, event: Event) {
  of.value = place
  menu.value!.toggle(event)
}
async function setName(name: string) {
  setOfBlock(props.editor, at(), { name: name.trim().slice(0, 60) || null })
}

/* Dragging */

const dragged = ref<string | null>(null)
const over = ref<number | null>(null)
function drag(place: BlockPlace, event: DragEvent) {
  dragged.value = place.key
  event.dataTransfer!.effectAllowed = 'move'
  event.dataTransfer!.setData('text/plain', place.word)
}
function dragOver(event: DragEvent) {
  if (dragged.value === null) return
  event.preventDefault()
  const y = event.clientY - (event.currentTarget as HTMLElement).getBoundingClientRect().top
  const next = props.places.findIndex(({ top, height }) => y < top + height / 2)
  over.value = next < 0 ? props.places.length : next
}
function drop() {
  const from = props.places.find(({ key }) => key === dragged.value)
  if (from && over.value !== null) putBlock(props.editor, beginOf(props.editor, from.index), beginOf(props.editor, over.value))
  end()
}
function end() {
  dragged.value = over.value = null
}
const lineAt = computed(() => {
  if (over.value === null) return null
  const next = props.places[over.value]
  const last = props.places.at(-1)!
  return next ? next.top : last.top + last.height
})
</script>

<template>
  <div class="gutter" @dragover="dragOver" @drop.prevent="drop" @dragend="end" @dragleave.self="over = null">
    <div
      v-for="place in places" :key="place.key" class="place" :class="{ on: place.index === current, hidden: place.hidden }"
      :style="{ top: `${place.top}px`, minHeight: `${place.height}px` }">
      <button
        type="button" class="label" draggable="true" :title="`Drag to move this ${place.word.toLowerCase()}`"
        @dragstart="event => drag(place, event)" @click="stand(editor, beginOf(editor, place.index))">
        {{ place.name ?? place.word }}
        <span v-if="place.hidden" class="remark">left out</span>
        <span v-else-if="notes?.get(place.key)" class="remark wrong">{{ notes.get(place.key) }}</span>
        <span v-else-if="place.name" class="remark">{{ place.word.toLowerCase() }}</span>
      </button>
      <button
        type="button" class="dot" :aria-label="`What to do with ${place.name ?? place.word}`" aria-haspopup="true"
        @click="event => open(place, event)" />
      <button
        type="button" class="plus" :aria-label="`Add a block after ${place.name ?? place.word}`"
        @click="event => emit('add', beginOf(editor, place.index), event.currentTarget as HTMLElement)">
        <i class="pi pi-plus" aria-hidden="true" />
      </button>
    </div>
    <div v-if="lineAt !== null" class="drop" :style="{ top: `${lineAt}px` }" />
    <PopupMenu ref="menu" :model="items" popup />
    <NameDialog
      v-model:visible="naming" title="Name this block" label="Name (only you see it)" example="The three books" action="Keep the name"
      :make="setName" />
  </div>
</template>

<style scoped>
.gutter { position: relative; width: 148px; flex: none; }
.gutter::before { content: ''; position: absolute; right: 11px; top: 0; bottom: 0; width: 2px; background: var(--p-porch-line); }
.place {
  position: absolute; right: 0; left: 0; display: grid; grid-template-columns: minmax(0, 1fr) 24px; align-content: start;
  column-gap: 4px;
}
.label {
  grid-column: 1; border: 0; background: none; padding: 1px 4px; text-align: right; font: 600 13px/1.4 var(--body);
  color: var(--p-porch-ink-second); cursor: grab; overflow-wrap: anywhere; min-height: 24px;
}
.label:hover, .on .label { color: var(--p-porch-ink); }
.remark { display: block; font-weight: 400; font-size: 12.5px; color: var(--p-porch-ink-second); }
.remark.wrong { color: var(--p-porch-brick); }
.hidden .label { text-decoration: line-through; text-decoration-color: var(--p-porch-ink-third); }
.hidden .remark { display: inline-block; }
.dot {
  grid-column: 2; width: 24px; height: 24px; border: 0; padding: 0; background: none; cursor: pointer; position: relative; z-index: 2;
}
.dot::after {
  content: ''; position: absolute; inset: 6px; border-radius: 50%; border: 2px solid var(--p-porch-ink-third);
  background: var(--p-porch-ceiling);
}
.dot:hover::after { border-color: var(--p-porch-ink); }
.on .dot::after { background: var(--p-porch-focus); border-color: var(--p-porch-focus); }
.plus {
  position: absolute; right: 0; bottom: -13px; width: 24px; height: 24px; border-radius: 50%; border: 1px solid var(--p-porch-line);
  padding: 0;
  background: var(--p-porch-paper); color: var(--p-porch-door); cursor: pointer; opacity: 0; z-index: 1;
}
.plus .pi { font-size: 11px; }
.on .plus, .place:hover .plus, .plus:focus-visible { opacity: 1; }
.drop {
  position: absolute; left: 0; right: -620px; height: 3px; background: var(--p-porch-focus); border-radius: 2px; pointer-events: none;
  z-index: 2;
}
@media (max-width: 760px) {
  .gutter { width: 28px; }
  .label { display: none; }
  .place { grid-template-columns: 24px; }
  .dot { grid-column: 1; }
}
</style>
