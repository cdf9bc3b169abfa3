/** A button in an email: words, an address, and the tag that following it gives. */
import { Node, mergeAttributes } from '@tiptap/core'
import type { ButtonNode } from '#core/message/content'

export const EmailButton = Node.create({
  name: 'button',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes() {
    return { label: { default: '' }, url: { default: '' }, tagId: { default: null }, linkId: { default: null }, asks: { default: false } }
  },
  parseHTML() {
    return [{ tag: 'div[data-button]', getAttrs: element => ({
      label: element.dataset.button, url: element.dataset.url, tagId: Number(element.dataset.tag) || null,
      linkId: Number(element.dataset.link) || null, asks: element.dataset.asks === 'yes',
    }) }]
  },
  renderHTML({ node, HTMLAttributes }) {
    const { label, url, tagId, linkId, asks } = node.attrs as ButtonNode['attrs']
    return ['div', mergeAttributes(HTMLAttributes, {
      'class': 'email-button', 'data-button': label, 'data-url': url, 'data-tag': tagId ?? '', 'data-link': linkId ?? '',
      'data-asks': asks ? 'yes' : '',
    }), ['span', {}, label || 'Button text']]
  },
})
