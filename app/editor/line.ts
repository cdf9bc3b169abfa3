/** One line of text with placeholders: no second paragraph, no marks. */
import { Extension, Node } from '@tiptap/core'
import type { Line } from '#core/message/content'
import { tidy } from './email/attrs'

export const OneLine = Node.create({ name: 'doc', topNode: true, content: 'paragraph' })

/** Enter leaves the line instead of breaking it. */
export const NoBreaks = Extension.create({
  name: 'noBreaks',
  addKeyboardShortcuts() {
    return { 'Enter': () => true, 'Shift-Enter': () => true }
  },
})

interface LineJson { content?: { content?: Line }[] }

export const lineOf = (json: unknown): Line => ((json as LineJson).content?.[0]?.content ?? []).map(node => tidy(node as never) as never)

export const docOf = (line: Line) => ({ type: 'doc', content: [{ type: 'paragraph', ...(line.length > 0 && { content: line }) }] })
