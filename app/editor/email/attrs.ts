/** What every block of an email may say of itself, and the id that each is given. */
import { Extension } from '@tiptap/core'
import { Plugin } from '@tiptap/pm/state'
import type { AlignAttrs, BlockAttrs } from '#core/message/content'
import { BLOCKS } from '#core/message/blocks'
import { freshId } from '~/courses/steps'

/** What aligns its lines. */
const ALIGNED = ['paragraph', 'heading', 'button', 'ownButton', 'picture', 'social']

export const BlockAttributes = Extension.create({
  name: 'blockAttributes',
  addGlobalAttributes() {
    return [
      { types: Object.keys(BLOCKS), attributes: {
        id: { default: null, keepOnSplit: false, rendered: false },
        name: { default: null, keepOnSplit: false, rendered: false },
        hidden: {
          default: false, keepOnSplit: false, parseHTML: () => false,
          renderHTML: ({ hidden }: BlockAttrs) => hidden ? { 'data-hidden': 'yes' } : {},
        },
      } },
      { types: ALIGNED, attributes: {
        align: {
          default: null,
          parseHTML: element => ({ center: 'center', right: 'end', end: 'end' })[element.dataset.align ?? element.style.textAlign] ?? null,
          renderHTML: ({ align }: AlignAttrs) => align ? { 'data-align': align } : {},
        },
      } },
    ]
  },
  addProseMirrorPlugins() {
    return [new Plugin({
      /** Each block has an id of its own: a new one, and the copy of another. */
      appendTransaction(_, before, now) {
        if (before.doc.eq(now.doc)) return null
        const seen = new Set<string>()
        const change = now.tr
        now.doc.forEach((node, at) => {
          const id = node.attrs.id as string | null
          if (id !== null && !seen.has(id)) seen.add(id)
          else change.setNodeAttribute(at, 'id', freshId())
        })
        // It is part of what was done, and nothing to undo by itself.
        return change.docChanged ? change.setMeta('addToHistory', false) : null
      },
    })]
  },
})

interface Json { type?: string, attrs?: Record<string, unknown>, content?: Json[], [more: string]: unknown }

/** A part of what the editor holds, as it is kept: nothing that says no more than is so anyway. */
export function tidy(node: Json): Json {
  const { attrs, content, ...rest } = node
  const kept = Object.entries(attrs ?? {}).filter(([key, value]) => {
    if (['id', 'name', 'align'].includes(key)) return value !== null && value !== ''
    if (node.type === 'placeholder' && key !== 'fallback') return value !== null && value !== ''
    if (key === 'hidden' || key === 'isPlain') return value === true
    return node.type !== 'bulletList' && node.type !== 'orderedList'
  })
  return {
    ...rest, ...kept.length > 0 && { attrs: Object.fromEntries(kept) }, ...content && { content: content.map(tidy) },
  }
}

export function tidyDoc<Doc>(doc: unknown): Doc {
  const { content = [], ...rest } = tidy(doc as Json)
  // The empty line on which one could write on is none of the email.
  const written = content.length > 1 && content.at(-1)!.type === 'paragraph' && !content.at(-1)!.content ? content.slice(0, -1) : content
  return { ...rest, content: written } as Doc
}
