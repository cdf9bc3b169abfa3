/** The button of an email that leads to what the email is for: it has words, and an address of its own making. */
import { Node, mergeAttributes } from '@tiptap/core'

export const OwnButton = Node.create({
  name: 'ownButton',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes() {
    return { label: { default: '' } }
  },
  parseHTML() {
    return [{ tag: 'div[data-own-button]', getAttrs: element => ({ label: element.dataset.ownButton }) }]
  },
  renderHTML({ node, HTMLAttributes }) {
    const { label } = node.attrs as { label: string }
    return [
      'div', mergeAttributes(HTMLAttributes, { 'class': 'email-button own', 'data-own-button': label }),
      ['span', {}, label || 'Button text'],
    ]
  },
})
