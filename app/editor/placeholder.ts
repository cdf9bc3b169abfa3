/** A fact, standing in a text as a chip in words: `first name, or: friend`. */
import { Node, mergeAttributes } from '@tiptap/core'
import { namePlaceholder, placeholder, sayPlaceholder, type PlaceholderAttrs } from '#core/message/placeholders'

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    placeholder: { insertPlaceholder(attrs: PlaceholderAttrs): ReturnType }
  }
}

export const PlaceholderChip = Node.create({
  name: 'placeholder',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes() {
    const kept = (name: string, empty: unknown) => ({
      default: empty, rendered: false,
      parseHTML: (element: HTMLElement) => (JSON.parse(element.dataset.placeholder!) as Record<string, unknown>)[name] ?? empty,
    })
    return {
      field: kept('field', 'first_name'), fallback: kept('fallback', ''), fieldId: kept('fieldId', null), label: kept('label', null),
      as: kept('as', null), days: kept('days', null),
    }
  },
  parseHTML() {
    return [{ tag: 'span[data-placeholder]' }]
  },
  renderHTML({ node, HTMLAttributes }) {
    const attrs = node.attrs as PlaceholderAttrs
    const or = placeholder(attrs.field).mayLack ? `, or: ${attrs.fallback}` : ''
    return [
      'span', mergeAttributes(HTMLAttributes, { 'class': 'placeholder-chip', 'data-placeholder': JSON.stringify(attrs) }),
      `${namePlaceholder(attrs)}${or}`,
    ]
  },
  renderText({ node }) {
    return sayPlaceholder(node.attrs as PlaceholderAttrs)
  },
  addCommands() {
    return { insertPlaceholder: attrs => ({ commands }) => commands.insertContent({ type: this.name, attrs }) }
  },
})

/** A new one of these; of what may be unknown it is asked what stands in its place. */
export const freshPlaceholder = (attrs: Partial<PlaceholderAttrs> & Pick<PlaceholderAttrs, 'field'>): PlaceholderAttrs => ({
  fallback: '', fieldId: null, label: null, as: null, days: null, ...attrs,
})
