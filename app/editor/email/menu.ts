/** What is put in while writing: blocks after a slash, facts of the reader after an at sign. Drawn by whoever follows `onChange`. */
import { Extension, type Editor, type Range } from '@tiptap/core'
import { PluginKey } from '@tiptap/pm/state'
import Suggestion from '@tiptap/suggestion'
import { blockAt, innerAt } from './moves'
import type { PlaceholderAttrs } from '#core/message/placeholders'
import type { Fact } from '~/composables/useFacts'
import { findBlocks, type NewBlock } from './kinds'

export interface MenuItem { name: string, hint: string, icon: string, take(editor: Editor, range: Range): void }

/** Null while it is closed. `left` and `top`: of the sign, in the window. */
export interface OpenMenu { label: string, items: MenuItem[], chosen: number, left: number, top: number, take(item: MenuItem): void }

export function insertBlock(editor: Editor, at: number | Range, block: NewBlock): void {
  const fresh = block.fresh()
  editor.chain().focus().insertContentAt(at, fresh).run()
  const from = typeof at === 'number' ? at : at.from
  // Stand in it, or on it where it is chosen as a whole, so that its form opens.
  let place: number | null = null
  editor.state.doc.nodesBetween(Math.max(0, from - 1), Math.min(editor.state.doc.content.size, from + 2), (node, pos) => {
    if (place === null && node.type.name === fresh.type && pos >= from - 1) place = pos
    return place === null
  })
  if (place === null) return
  const node = editor.state.doc.nodeAt(place)!
  if (node.isAtom) editor.commands.setNodeSelection(place)
  else editor.commands.setTextSelection(place + (node.isTextblock ? 1 : 3))
}

const blocks = ({ own, parts }: CanPut) => (typed: string, editor: Editor): MenuItem[] => [
  ...findBlocks(typed, own), ...parts().filter(({ name }) => isNamed(name, typed)),
].filter(block =>
  // Versions of versions would be read by nobody; a part holds versions itself.
  !['onlyFor', 'part'].includes(block.fresh().type) || innerAt(editor) === blockAt(editor)).map(block => ({
  name: block.name, hint: block.hint, icon: block.icon,
  take(editor, range) {
    const from = innerAt(editor)
    const outer = { from, to: from + (editor.state.doc.nodeAt(from)?.nodeSize ?? 0) }
    editor.chain().deleteRange(range).run()
    const text = editor.state.doc.nodeAt(outer.from)
    // A line that held only the slash becomes the block.
    const whole = text?.isTextblock && text.content.size === 0
    insertBlock(editor, whole ? { from: outer.from, to: outer.from + text.nodeSize } : outer.from + (text?.nodeSize ?? 0), block)
  },
}))

/** Which blocks can be put in: with a button of its own, and which parts. */
export interface CanPut { own: boolean, parts(): NewBlock[] }

const isNamed = (name: string, typed: string) =>
  `part ${name}`.toLowerCase().split(' ').some(word => word.startsWith(typed.trim().toLowerCase()))

export const partBlock = ({ id, name }: { id: number, name: string }): NewBlock => ({
  name, hint: 'a part of yours', icon: 'pi pi-clone', fresh: () => ({ type: 'part', attrs: { partId: id } }),
})

export const factItem = (fact: Fact, ask: (attrs: PlaceholderAttrs) => void): MenuItem => ({
  name: fact.name, hint: fact.hint, icon: 'text' in fact ? 'pi pi-ticket' : 'pi pi-user',
  take(editor, range) {
    const taken = editor.chain().focus().deleteRange(range)
    if ('text' in fact) return void taken.insertContent({ type: 'text', text: fact.text }).run()
    taken.run()
    ask(fact.attrs)
  },
})

/**
 * `onChange` is told what to show; `ask` asks how a fact is said, and what stands in its place where it is not known. `blocks`: which can
 * be put in, null where it is one line.
 */
export const WritingMenus = (how: {
  blocks: CanPut | null, find(typed: string): Fact[], onChange(menu: OpenMenu | null): void, ask(attrs: PlaceholderAttrs): void
}) =>
  Extension.create({
    name: 'writingMenus',
    addProseMirrorPlugins() {
      const menu = (char: string, label: string, find: (typed: string, editor: Editor) => MenuItem[]) => {
        let open: OpenMenu | null = null
        const show = (next: OpenMenu | null) => how.onChange(open = next)
        return Suggestion<MenuItem, MenuItem>({
          editor: this.editor, char, pluginKey: new PluginKey(`menu ${char}`), allowSpaces: false,
          items: ({ query, editor }) => find(query, editor),
          command: ({ editor, range, props }) => props.take(editor, range),
          render: () => {
            const draw = ({ items, clientRect, command }: {
              items: MenuItem[], clientRect?: (() => DOMRect | null) | null, command(item: MenuItem): void,
            }) => {
              const box = clientRect?.()
              if (!box || items.length === 0) return show(null)
              show({ label, items, chosen: Math.min(open?.chosen ?? 0, items.length - 1), left: box.left, top: box.bottom, take: command })
            }
            return {
              onStart: draw,
              onUpdate: draw,
              onExit: () => show(null),
              onKeyDown: ({ event }) => {
                if (!open) return false
                const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
                if (by !== undefined) {
                  show({ ...open, chosen: (open.chosen + by + open.items.length) % open.items.length })
                  return true
                }
                if (event.key === 'Enter' || event.key === 'Tab') {
                  open.take(open.items[open.chosen]!)
                  return true
                }
                return false
              },
            }
          },
        })
      }
      return [
        ...how.blocks ? [menu('/', 'Add a block', blocks(how.blocks))] : [],
        menu('@', 'Insert', typed => how.find(typed).map(fact => factItem(fact, how.ask))),
      ]
    },
  })
