/** Rich text of public pages. */
import type { HeadingNode, ListNode, ParagraphNode, RichText } from '#core/message/content'

export type PageText = RichText<ParagraphNode | HeadingNode | ListNode>

export const paragraphs = (...texts: string[]): PageText => ({
  type: 'doc',
  content: texts.map(text => ({ type: 'paragraph', content: text ? [{ type: 'text', text }] : [] })),
})

/** Whether anybody could read something there. */
export const hasText = (text: PageText): boolean => /"text":"[^"]*[^\s"]/.test(JSON.stringify(text))
