/** A place of the email that readers get in different versions: the versions stand as tabs, and are written in where they stand. */
import { mergeAttributes, Node, type Editor } from '@tiptap/core'
import type { Node as PmNode } from '@tiptap/pm/model'
import { TextSelection } from '@tiptap/pm/state'
import { EVERYBODY, type Condition } from '#core/audience/condition'
import type { CaseNode } from '#core/message/content'
import { sayNumber } from '#core/stats/say'

/** What is known of the versions of one block: how each is said, and how many get it. */
export interface Sight { cases: { says: string, people: number }[], none: number }

/** What the tabs are told, and what they tell. */
export interface Sights {
  of(blockId: string): Sight | undefined
  /** Those that are drawn, by the id of their block. */
  drawn: Map<string, { show(n: number): void, redraw(): void }>
  /** Another version is wanted. */
  add(at: number): void
}

const INSIDE = [
  'paragraph', 'heading', 'bulletList', 'orderedList', 'blockquote', 'button', 'picture', 'beside', 'video', 'divider', 'space', 'social',
  'articles', 'choice', 'offer', 'countdown', 'file', 'html',
]

export const freshCase = (who: Condition | null = EVERYBODY): CaseNode => ({
  type: 'case', attrs: { who, name: null }, content: [{ type: 'paragraph' }],
})

/** What a tab says. */
export function sayCase({ who, name }: CaseNode['attrs'], says: string | undefined): string {
  if (name) return name
  if (who === null) return 'Everybody else'
  return says ? says[0]!.toUpperCase() + says.slice(1) : 'For some'
}

export const onlyForNodes = (own: boolean, sights: Sights) => [
  Node.create({
    name: 'case',
    content: `(${[...INSIDE, ...own ? ['ownButton'] : []].join(' | ')})+`,
    isolating: true,
    defining: true,
    addAttributes: () => ({ who: { default: null, rendered: false }, name: { default: null, rendered: false } }),
    parseHTML: () => [{ tag: 'div[data-case]' }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-case': '' }), 0],
  }),
  Node.create({
    name: 'onlyFor',
    group: 'block',
    content: 'case+',
    draggable: true,
    isolating: true,
    defining: true,
    parseHTML: () => [{ tag: 'div[data-block="onlyFor"]' }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-block': 'onlyFor' }), 0],
    addNodeView: () => ({ node, getPos, editor }) => new OnlyForView(node, () => getPos() ?? 0, editor, sights),
  }),
]

class OnlyForView {
  readonly dom = document.createElement('div')
  readonly contentDOM = document.createElement('div')
  readonly #tabs = document.createElement('div')
  #node: PmNode
  #shown = 0

  constructor(node: PmNode, readonly at: () => number, readonly editor: Editor, readonly sights: Sights) {
    this.#node = node
    this.dom.dataset.block = 'onlyFor'
    this.#tabs.className = 'tabs'
    this.#tabs.contentEditable = 'false'
    this.contentDOM.className = 'cases'
    this.dom.append(this.#tabs, this.contentDOM)
    editor.on('selectionUpdate', this.#follow)
    this.#register(node)
    this.redraw()
  }

  #register(node: PmNode): void {
    const id = node.attrs.id as string | null
    if (id !== null) this.sights.drawn.set(id, this)
  }

  update(node: PmNode): boolean {
    if (node.type !== this.#node.type) return false
    this.#node = node
    this.#register(node)
    this.#shown = Math.min(this.#shown, node.childCount - 1)
    this.dom.classList.toggle('left-out', node.attrs.hidden === true)
    this.redraw()
    return true
  }

  /** Whatever is written in is seen. */
  #follow = (): void => {
    const { from } = this.editor.state.selection
    let at = this.at() + 1
    this.#node.forEach((one, _, n) => {
      if (from > at && from < at + one.nodeSize && n !== this.#shown) this.show(n)
      at += one.nodeSize
    })
  }

  show(n: number): void {
    this.#shown = Math.max(0, Math.min(n, this.#node.childCount - 1))
    this.redraw()
  }

  /** Shows a version and writes on in it. */
  #stand(n: number): void {
    this.show(n)
    let at = this.at() + 1
    for (let before = 0; before < n; before++) at += this.#node.child(before).nodeSize
    const { state, view } = this.editor
    view.dispatch(state.tr.setSelection(TextSelection.near(state.doc.resolve(at + 1))))
    view.focus()
  }

  redraw(): void {
    this.contentDOM.dataset.shown = String(this.#shown)
    const sight = this.sights.of(this.#node.attrs.id as string)
    const tabs: HTMLElement[] = []
    this.#node.forEach((one, _, n) => {
      const known = sight?.cases[n]
      const tab = document.createElement('button')
      tab.type = 'button'
      tab.setAttribute('role', 'tab')
      tab.setAttribute('aria-selected', String(n === this.#shown))
      tab.tabIndex = n === this.#shown ? 0 : -1
      const words = document.createElement('span')
      words.textContent = sayCase(one.attrs as CaseNode['attrs'], known?.says)
      tab.title = words.textContent
      tab.append(words)
      if (known) tab.append(` ${sayNumber(known.people)}`)
      tab.addEventListener('mousedown', event => event.preventDefault())
      tab.addEventListener('click', () => this.#stand(n))
      tab.addEventListener('keydown', (event) => {
        const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
        if (by === undefined) return
        event.preventDefault()
        this.show((n + by + this.#node.childCount) % this.#node.childCount)
        this.#tabs.querySelector<HTMLElement>('[aria-selected=true]')!.focus()
      })
      tabs.push(tab)
    })
    const add = document.createElement('button')
    add.type = 'button'
    add.className = 'add'
    add.setAttribute('aria-label', 'Add a version')
    add.title = 'Add a version'
    add.textContent = '+'
    add.addEventListener('mousedown', event => event.preventDefault())
    add.addEventListener('click', () => this.sights.add(this.at()))
    const rest = document.createElement('span')
    rest.className = 'rest'
    rest.textContent = sight && sight.none > 0 ? `${sayNumber(sight.none)} get nothing here` : ''
    const list = document.createElement('div')
    list.setAttribute('role', 'tablist')
    list.setAttribute('aria-label', 'Versions of this place')
    list.append(...tabs)
    this.#tabs.replaceChildren(list, add, rest)
  }

  ignoreMutation({ target }: { target: globalThis.Node }): boolean {
    return target === this.contentDOM || !this.contentDOM.contains(target)
  }

  stopEvent(event: Event): boolean {
    return this.#tabs.contains(event.target as globalThis.Node)
  }

  destroy(): void {
    this.editor.off('selectionUpdate', this.#follow)
    const id = this.#node.attrs.id as string | null
    if (id !== null && this.sights.drawn.get(id) === this) this.sights.drawn.delete(id)
  }
}

/* What is done with versions. `at`: where the block begins. */

function caseAt(editor: Editor, at: number, n: number): { at: number, node: PmNode } {
  const block = editor.state.doc.nodeAt(at)!
  let place = at + 1
  for (let before = 0; before < n; before++) place += block.child(before).nodeSize
  return { at: place, node: block.child(n) }
}

/** A block becomes what only some get. */
export function wrapForSome(editor: Editor, at: number): void {
  const block = editor.state.doc.nodeAt(at)
  if (!block || block.type.name === 'onlyFor') return
  const { id, ...attrs } = block.attrs
  const json = { type: 'onlyFor', content: [{ ...freshCase(), content: [{ ...block.toJSON() as object, attrs: { ...attrs, id: null } }] }] }
  editor.chain().focus().insertContentAt({ from: at, to: at + block.nodeSize }, { ...json, attrs: { id } }).setTextSelection(at + 3).run()
}

/** The blocks of one version take the place of all of them. */
export function unwrap(editor: Editor, at: number, n: number): void {
  const block = editor.state.doc.nodeAt(at)!
  editor.view.dispatch(editor.state.tr.replaceWith(at, at + block.nodeSize, block.child(n).content))
  editor.view.focus()
}

/** Before what is for everybody else, which stays last. Returns the number of the new one. */
export function addCase(editor: Editor, at: number, who: Condition | null): number {
  const block = editor.state.doc.nodeAt(at)!
  const hasElse = block.lastChild!.attrs.who === null
  const n = hasElse ? block.childCount - 1 : block.childCount
  const place = n === block.childCount ? at + block.nodeSize - 1 : caseAt(editor, at, n).at
  editor.chain().insertContentAt(place, freshCase(who)).focus(place + 2).run()
  // Tiptap gives the focus in the next frame, after a dialog has given it back to its button. What is typed until then would be lost.
  editor.view.focus()
  return n
}

export function setCase(editor: Editor, at: number, n: number, attrs: Partial<CaseNode['attrs']>): void {
  const one = caseAt(editor, at, n)
  editor.view.dispatch(editor.state.tr.setNodeMarkup(one.at, undefined, { ...one.node.attrs, ...attrs }))
}

export function removeCase(editor: Editor, at: number, n: number): void {
  const one = caseAt(editor, at, n)
  editor.view.dispatch(editor.state.tr.delete(one.at, one.at + one.node.nodeSize))
}

/** The version before it changes places with it: the first that fits counts. */
export function moveCaseUp(editor: Editor, at: number, n: number): void {
  const before = caseAt(editor, at, n - 1)
  const one = caseAt(editor, at, n)
  editor.view.dispatch(editor.state.tr.delete(one.at, one.at + one.node.nodeSize).insert(before.at, one.node))
}
