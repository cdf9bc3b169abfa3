/** What is looked up when an email is made, seen in its place: parts that are kept apart, offers, and how long something lasts. */
import { Node, type Editor } from '@tiptap/core'
import { DOMSerializer, type Node as PmNode } from '@tiptap/pm/model'
import type { CountdownNode, OfferNode, RichText } from '#core/message/content'
import { sayInFull, sayLeft } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'

/** What is known of it; `drawn` are told when that changes. */
export interface Known {
  parts(): readonly { id: number, name: string, body: RichText }[]
  offers(): readonly { id: number, name: string, price: string, closesAt: Instant | null }[]
  now(): Instant
  zone(): ZoneName
  drawn: Set<() => void>
}

type Draw = (dom: HTMLElement, node: PmNode, known: Known, editor: Editor) => void

/** A block that is chosen as a whole, and drawn from what is known besides its own words. */
const lookedUp = (name: string, defaults: Record<string, unknown>, draw: Draw) => (known: Known) => Node.create({
  name,
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => Object.fromEntries(Object.entries(defaults).map(([key, value]) => [key, {
    default: value, rendered: false,
    parseHTML: (element: HTMLElement) => (JSON.parse(element.dataset.attrs ?? '{}') as Record<string, unknown>)[key] ?? value,
  }])),
  parseHTML: () => [{ tag: `div[data-block="${name}"]` }],
  renderHTML: ({ node }) => ['div', { 'data-block': name, 'data-attrs': JSON.stringify(node.attrs) }],
  addNodeView: () => ({ node, editor }) => {
    const dom = document.createElement('div')
    dom.dataset.block = name
    let now = node
    const redraw = () => {
      dom.toggleAttribute('data-hidden', now.attrs.hidden === true)
      draw(dom, now, known, editor)
    }
    redraw()
    known.drawn.add(redraw)
    return {
      dom,
      update(next) {
        if (next.type !== now.type) return false
        now = next
        redraw()
        return true
      },
      ignoreMutation: () => true,
      destroy: () => void known.drawn.delete(redraw),
    }
  },
})

function put(dom: HTMLElement, ...children: (HTMLElement | string)[]): void {
  dom.replaceChildren(...children)
}
function words(tag: string, text: string, className = ''): HTMLElement {
  const element = document.createElement(tag)
  element.textContent = text
  if (className) element.className = className
  return element
}

const part = lookedUp('part', { partId: null }, (dom, node, known, editor) => {
  const found = known.parts().find(({ id }) => id === node.attrs.partId)
  const content = document.createElement('div')
  content.className = 'part-content'
  if (found) {
    // Versions in it are shown one below another.
    const { content: blocks } = editor.schema.nodeFromJSON(found.body)
    content.append(DOMSerializer.fromSchema(editor.schema).serializeFragment(blocks))
  }
  put(dom, words('span', found ? found.name : 'This part is gone', 'part-name'), content)
})

const offer = lookedUp('offer', { offerId: null, code: '', label: '' }, (dom, node, known) => {
  const { offerId, label } = node.attrs as OfferNode['attrs']
  const found = known.offers().find(({ id }) => id === offerId)
  if (!found) return put(dom, words('span', offerId === null ? 'Choose an offer' : 'This offer cannot be bought', 'no-picture'))
  const left = document.createElement('div')
  left.append(words('strong', found.name, 'offer-name'))
  if (found.closesAt !== null) left.append(words('span', `Closes ${sayInFull(found.closesAt, known.zone())}`))
  const right = document.createElement('div')
  const button = words('div', '', 'email-button')
  button.append(words('span', label || 'See it'))
  right.append(words('strong', found.price), button)
  put(dom, left, right)
})

const countdown = lookedUp('countdown', { offerId: null, until: null, before: '', after: '' }, (dom, node, known) => {
  const { offerId, until, before, after } = node.attrs as CountdownNode['attrs']
  const end = offerId === null ? until : known.offers().find(({ id }) => id === offerId)?.closesAt ?? null
  if (end === null) return put(dom, words('span', 'Choose until when', 'no-picture'))
  const left = sayLeft(end - known.now())
  put(dom, words('strong', left === null ? after : `${before} ${left}`), words('span', sayInFull(end, known.zone())))
})

/** Parts stand in emails only, and not in each other. */
export const lookedUpNodes = (known: Known, withParts: boolean) => [offer(known), countdown(known), ...withParts ? [part(known)] : []]
