/** What can be done with a whole block: moved, doubled, hidden, named, taken out. Places are positions before a block of the document. */
import { Extension, type Editor } from '@tiptap/core'
import { NodeSelection, TextSelection } from '@tiptap/pm/state'

/** Where the block begins in which the cursor stands, or that is chosen. */
export function blockAt(editor: Editor): number {
  const { $from, from } = editor.state.selection
  return $from.depth === 0 ? from : $from.before(1)
}

/** The same of the block within a version, where one stands in one. */
export function innerAt(editor: Editor): number {
  const { $from, from } = editor.state.selection
  const inCase = $from.depth >= 2 && $from.node(2).type.name === 'case'
  return !inCase ? blockAt(editor) : $from.depth === 2 ? from : $from.before(3)
}

/** Where the block with that number begins. */
export function beginOf(editor: Editor, index: number): number {
  let at = 0
  for (let n = 0; n < index; n++) at += editor.state.doc.child(n).nodeSize
  return at
}

/** Chooses a block, or puts the cursor into it where it is written in. */
export function stand(editor: Editor, at: number): void {
  const node = editor.state.doc.nodeAt(at)
  if (!node) return
  if (node.isAtom) editor.chain().focus().setNodeSelection(at).run()
  else editor.view.dispatch(editor.state.tr.setSelection(TextSelection.near(editor.state.doc.resolve(at + 1))).scrollIntoView())
  editor.view.focus()
}

export function moveBlock(editor: Editor, at: number, by: -1 | 1): boolean {
  const { doc, tr } = editor.state
  const node = doc.nodeAt(at)
  const index = doc.resolve(at).index(0)
  const other = doc.maybeChild(index + by)
  if (!node || !other) return false
  const to = by < 0 ? at - other.nodeSize : at + other.nodeSize
  editor.view.dispatch(tr.delete(at, at + node.nodeSize).insert(to, node))
  stand(editor, to)
  return true
}

/** Puts a block before the one that stands at `before`, or at the end. */
export function putBlock(editor: Editor, at: number, before: number): void {
  const { doc, tr } = editor.state
  const node = doc.nodeAt(at)
  if (!node || before === at || before === at + node.nodeSize) return
  const to = before > at ? before - node.nodeSize : before
  editor.view.dispatch(tr.delete(at, at + node.nodeSize).insert(to, node))
  stand(editor, to)
}

export function doubleBlock(editor: Editor, at: number): void {
  const node = editor.state.doc.nodeAt(at)
  if (!node) return
  editor.view.dispatch(editor.state.tr.insert(at + node.nodeSize, node))
  stand(editor, at + node.nodeSize)
}

export function removeBlock(editor: Editor, at: number): void {
  const { doc, tr } = editor.state
  const node = doc.nodeAt(at)
  if (!node) return
  // An email, and each version in it, is never without a place to write.
  const isLast = doc.resolve(at).parent.childCount === 1
  const change = isLast
    ? tr.replaceWith(at, at + node.nodeSize, editor.schema.nodes.paragraph!.create())
    : tr.delete(at, at + node.nodeSize)
  editor.view.dispatch(change)
  editor.view.focus()
}

export function setOfBlock(editor: Editor, at: number, attrs: Record<string, unknown>): void {
  const node = editor.state.doc.nodeAt(at)
  if (!node) return
  const change = editor.state.tr.setNodeMarkup(at, undefined, { ...node.attrs, ...attrs })
  const chosen = editor.state.selection instanceof NodeSelection && editor.state.selection.from === at
  editor.view.dispatch(chosen ? change.setSelection(NodeSelection.create(change.doc, at)) : change)
}

export const BlockKeys = Extension.create({
  name: 'blockKeys',
  addKeyboardShortcuts() {
    const at = () => blockAt(this.editor)
    return {
      'Alt-ArrowUp': () => moveBlock(this.editor, at(), -1),
      'Alt-ArrowDown': () => moveBlock(this.editor, at(), 1),
      'Mod-d': () => {
        doubleBlock(this.editor, at())
        return true
      },
    }
  },
})
