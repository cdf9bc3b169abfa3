/** A button in an email: words, an address, and the tag that following it gives. */
import { Node, mergeAttributes } from '@tiptap/core'

export const EmailButton = Node.create({
  name: 'button',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes() {
    return { label: { default: '' }, url: { default: '' }, tagId: { default: null } }
  },
  parseHTML() {
    return [{ tag: 'div[data-button]', getAttrs: element => ({ label: element.dataset.button, url: element.dataset.url, tagId: Number(element.dataset.tag) || null }) }]
  },
  renderHTML({ node, HTMLAttributes }) {
    const { label, url, tagId } = node.attrs as { label: string, url: string, tagId: number | null }
    return ['div', mergeAttributes(HTMLAttributes, { 'class': 'email-button', 'data-button': label, 'data-url': url, 'data-tag': tagId ?? '' }), ['span', {}, label || 'Words of the button']]
  },
})
