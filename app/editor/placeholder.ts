/** A fact of the reader, standing in a text as a chip in words: `first name, or: friend`. */
import { Node, mergeAttributes } from '@tiptap/core'
import { PLACEHOLDER_FIELDS, type PlaceholderField } from '#core/message/content'

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    placeholder: { insertPlaceholder(field: PlaceholderField, fallback: string): ReturnType }
  }
}

export const PlaceholderChip = Node.create({
  name: 'placeholder',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes() {
    return { field: { default: 'first_name' }, fallback: { default: 'friend' } }
  },
  parseHTML() {
    return [
      { tag: 'span[data-placeholder]', getAttrs: element => ({ field: element.dataset.placeholder, fallback: element.dataset.fallback }) },
    ]
  },
  renderHTML({ node, HTMLAttributes }) {
    const { field, fallback } = node.attrs as { field: PlaceholderField, fallback: string }
    return [
      'span', mergeAttributes(HTMLAttributes, { 'class': 'placeholder-chip', 'data-placeholder': field, 'data-fallback': fallback }),
      `${PLACEHOLDER_FIELDS[field]}, or: ${fallback}`,
    ]
  },
  renderText({ node }) {
    return `[${PLACEHOLDER_FIELDS[node.attrs.field as PlaceholderField]}, or: ${node.attrs.fallback}]`
  },
  addCommands() {
    return {
      insertPlaceholder: (field, fallback) => ({ commands }) => commands.insertContent({ type: this.name, attrs: { field, fallback } }),
    }
  },
})
