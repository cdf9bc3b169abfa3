/** The editor in which an email is written, and what stands beside it: its blocks by their places, and the one that is worked on. */
import { computed, onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'
import { useResizeObserver, useTimeoutFn } from '@vueuse/core'
import { dequal } from 'dequal'
import { Editor } from '@tiptap/vue-3'
import { NodeSelection } from '@tiptap/pm/state'
import StarterKit from '@tiptap/starter-kit'
import { blockKind } from '#core/message/blocks'
import type { BlockAttrs, BlockNode, RichText } from '#core/message/content'
import type { PlaceholderAttrs } from '#core/message/placeholders'
import { EmailButton } from '~/editor/button'
import { BlockAttributes, tidyDoc } from '~/editor/email/attrs'
import { partBlock, WritingMenus, type OpenMenu } from '~/editor/email/menu'
import { lookedUpNodes, type Known } from '~/editor/email/lookedUp'
import { blockAt, BlockKeys, innerAt } from '~/editor/email/moves'
import { onlyForNodes, type Sights } from '~/editor/email/onlyFor'
import { emailNodes, type PictureSrc } from '~/editor/email/nodes'
import { useFacts } from './useFacts'
import { tellBeforeSaving } from './useTellers'
import { cleanPasted } from '~/editor/email/paste'
import { OwnButton } from '~/editor/ownButton'
import { PlaceholderChip } from '~/editor/placeholder'
import { styleNonce } from '~/theme/nonce'

const TELL_MS = 200

export interface BlockPlace {
  /** The how-manieth block it is. What stands before it grows and shrinks with every letter; this does not. */
  index: number
  key: string
  word: string
  name: string | null
  hidden: boolean
  /** In pixels from the top of the canvas. */
  top: number
  height: number
}

export function useEmailEditor(body: Ref<RichText>, how: {
  label: string, own: boolean, src: PictureSrc, canvas: Ref<HTMLElement | undefined>, sights: Sights
  known: Known
  /** False where this is a part itself. */
  withParts: boolean
}) {
  const menu = shallowRef<OpenMenu | null>(null)
  const asking = shallowRef<PlaceholderAttrs | null>(null)
  const facts = useFacts()
  /** The editor keeps its own state; this makes what is drawn beside it follow. */
  const count = ref(0)
  const places = shallowRef<BlockPlace[]>([])
  let kept = JSON.stringify(body.value)
  /** The same as the editor has it: with an id for each block, and with what goes without saying. */
  let held: string

  const editor = new Editor({
    injectNonce: styleNonce(),
    content: body.value,
    extensions: [
      StarterKit.configure({
        code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false, heading: { levels: [2, 3] },
        link: { openOnClick: false, autolink: true, protocols: ['http', 'https'], HTMLAttributes: { rel: null, target: null } },
        dropcursor: { class: 'drop-line', color: false },
      }),
      PlaceholderChip, EmailButton, ...how.own ? [OwnButton] : [], ...emailNodes(how.src),
      ...onlyForNodes(how.own, how.sights), ...lookedUpNodes(how.known, how.withParts), BlockAttributes, BlockKeys,
      WritingMenus({
        blocks: { own: how.own, parts: () => how.withParts ? how.known.parts().map(partBlock) : [] }, find: facts.find,
        onChange: next => menu.value = next, ask: attrs => asking.value = attrs,
      }),
    ],
    editorProps: {
      attributes: { 'role': 'textbox', 'aria-multiline': 'true', 'aria-label': how.label },
      transformPastedHTML: html => html.includes('data-pm-slice') ? html : cleanPasted(html),
      // The first block goes into the line that stands there: an empty one takes its place on the page, too.
      transformPasted(slice, view) {
        const { $from, empty } = view.state.selection
        const align = slice.content.firstChild?.attrs.align as string | undefined
        if (empty && align && $from.parent.type.name === 'paragraph' && $from.parent.content.size === 0) {
          view.dispatch(view.state.tr.setNodeAttribute($from.before(), 'align', align))
        }
        return slice
      },
    },
    onUpdate: () => tell(),
    onBlur: () => tellNow(),
    onTransaction: () => {
      count.value++
      measure()
    },
    onCreate: () => {
      settle()
      measure()
    },
  })
  const written = () => tidyDoc<RichText>(editor.getJSON())
  held = JSON.stringify(written())
  /** Ids, and a line to write on at the end, come with the first change: it is ours, not the writer’s, and to look at an email is none. */
  function settle() {
    editor.view.dispatch(editor.state.tr.setMeta('addToHistory', false).setMeta('preventUpdate', true))
    held = JSON.stringify(written())
  }

  /** What is written is told at once, and while one writes on a few times a second: what hangs on it must not hold up the letters. */
  let toldAt = 0
  const later = useTimeoutFn(tellNow, TELL_MS, { immediate: false })
  function tellNow() {
    later.stop()
    if (editor.isDestroyed) return
    const next = written()
    const text = JSON.stringify(next)
    if (text === held) return
    held = kept = text
    toldAt = performance.now()
    body.value = next
  }
  function tell() {
    if (performance.now() - toldAt >= TELL_MS) tellNow()
    else if (!later.isPending.value) later.start()
  }
  // Going back by a key or a gesture leaves the editor without a blur.
  tellBeforeSaving(tellNow)

  /** After what was changed has been drawn. */
  let frame = 0
  function measure() {
    cancelAnimationFrame(frame)
    frame = requestAnimationFrame(() => {
      const canvas = how.canvas.value
      if (!canvas || editor.isDestroyed) return
      const { top: origin } = canvas.getBoundingClientRect()
      const next: BlockPlace[] = []
      editor.state.doc.forEach((node, at, index) => {
        const element = editor.view.nodeDOM(at)
        if (!(element instanceof HTMLElement)) return
        const { top, height } = element.getBoundingClientRect()
        const { id, name, hidden } = node.attrs as BlockAttrs
        const part = how.known.parts().find(one => one.id === node.attrs.partId)
        next.push({
          index, key: id ?? `at ${index}`, word: part?.name ?? blockKind(node.toJSON() as BlockNode).word, name: name ?? null,
          hidden: hidden === true, top: top - origin, height,
        })
      })
      if (!dequal(next, places.value)) places.value = next
    })
  }
  useResizeObserver(how.canvas, measure)

  watch(body, (next) => {
    const text = JSON.stringify(next)
    if (text === kept) return
    kept = text
    editor.commands.setContent(next as never, { emitUpdate: false })
    held = JSON.stringify(written())
  })
  onBeforeUnmount(() => {
    tellNow()
    cancelAnimationFrame(frame)
    editor.destroy()
  })

  const blockFrom = (at: number) => {
    const node = editor.state.doc.nodeAt(at)
    return node && {
      at, index: editor.state.doc.resolve(at).index(0), type: node.type.name as BlockNode['type'],
      attrs: { ...node.attrs } as Record<string, unknown>, node,
    }
  }
  /** The block that is worked on; and the one within a version, where that is one of versions. */
  const current = computed(() => count.value < 0 ? null : blockFrom(blockAt(editor)))
  const inner = computed(() => count.value < 0 ? null : blockFrom(innerAt(editor)))
  /** What is chosen as a whole inside or instead of a block: a button, a name. */
  const chosen = computed(() => {
    if (count.value < 0) return null
    const { selection } = editor.state
    return selection instanceof NodeSelection
      ? { at: selection.from, type: selection.node.type.name, attrs: { ...selection.node.attrs } as Record<string, unknown> }
      : null
  })
  const isOn = (name: string, attrs: Record<string, unknown> = {}) => count.value >= 0 && editor.isActive(name, attrs)
  const can = (what: 'undo' | 'redo') => count.value >= 0 && editor.can()[what]()

  return { editor, menu, asking, facts, places, current, inner, chosen, isOn, can }
}
